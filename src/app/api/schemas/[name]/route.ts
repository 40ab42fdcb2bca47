import { NAMED_QUESTION_SCHEMAS } from "@/core/files/question-schemas";
import { ALL_SCHEMAS } from "@/core/files/schemas";
import { SETUP_SCHEMA } from "@/core/files/setup-schema";
import { answer, foreign, refuse, refusing } from "../../answers";

export const dynamic = "force-dynamic";
export const { POST, HEAD, PUT, PATCH, DELETE, OPTIONS } = refusing(
  ["POST", "HEAD", "PUT", "PATCH", "DELETE", "OPTIONS"],
  "GET",
);

const SCHEMAS: ReadonlyMap<string, object> = new Map(
  [
    ...ALL_SCHEMAS,
    ...NAMED_QUESTION_SCHEMAS.map(({ name, schema }) => ({ name: `question-${name}`, schema })),
    { name: "setup", schema: SETUP_SCHEMA },
  ].map(({ name, schema }) => [name, schema]),
);

/** GET /api/schemas/NAME: the JSON Schema of a record, of an archive's manifest, of a set-up file, of a planning question. */
export async function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly name: string }> },
): Promise<Response> {
  const elsewhere = foreign(request);
  if (elsewhere) return elsewhere;
  const { name } = await params;
  const schema = SCHEMAS.get(name.replace(/\.json$/, ""));
  if (!schema)
    return refuse(404, {
      where: "name",
      found: `There is no schema “${name}”.`,
      remedy: `Ask for one of ${[...SCHEMAS.keys()].join(", ")}.`,
    });
  return answer(
    { $schema: "https://json-schema.org/draft/2020-12/schema", title: name.replace(/\.json$/, ""), ...schema },
    200,
    { "Content-Type": "application/schema+json" },
  );
}
