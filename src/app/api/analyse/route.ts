import { analyseFile, reportJson, type FileRefusal } from "@/core/report";
import { answer, foreign, refuse, refusing } from "../answers";
import { parts } from "../upload";

export const dynamic = "force-dynamic";
export const { GET, HEAD, PUT, PATCH, DELETE, OPTIONS } = refusing(
  ["GET", "HEAD", "PUT", "PATCH", "DELETE", "OPTIONS"],
  "POST",
);

const REMEDIES: Readonly<Record<FileRefusal["code"], string>> = {
  setup: "Correct the set-up; GET /api/schemas/setup gives its JSON Schema.",
  procedure: "Name one of the known procedures in the set-up.",
  strange: "Send a table of readings with a head: CSV with any delimiter.",
  unclear: "Name the columns for what they are, such as “Cell voltage (V)”, or send a set-up before the log.",
  rows: "Mend those rows, or send the field skipBadRows with the value yes before the log.",
  log: "Correct the log or its set-up.",
};

/**
 * POST /api/analyse, multipart: `setup` (JSON, optional) and `skipBadRows` (yes, optional), then `log`, a file. The JSON of the command line,
 * from the same core. Nothing is stored.
 */
export async function POST(request: Request): Promise<Response> {
  const elsewhere = foreign(request);
  if (elsewhere) return elsewhere;
  const body = await parts(request);
  if (!body.ok) return body.response;
  const asked = fields(body.list);
  if (asked instanceof Response) return asked;
  const report = analyseFile({
    name: asked.log.name,
    bytes: new Uint8Array(await asked.log.arrayBuffer()),
    setup: asked.setup,
    skipBadRows: asked.skipBadRows,
  });
  if (report.ok) return answer(reportJson(report));
  return refuse(422, {
    where: report.code === "setup" || report.code === "procedure" ? "setup" : "log",
    found: report.found.join("\n"),
    remedy: REMEDIES[report.code],
  });
}

interface Asked {
  readonly setup: string | null;
  readonly skipBadRows: boolean;
  readonly log: File;
}

/** The parts by their names: everything about the log comes before it, each once. */
function fields(list: readonly (readonly [name: string, value: string | File])[]): Asked | Response {
  const wrong = (where: string, found: string, remedy: string): Response => refuse(400, { where, found, remedy });
  const text = (name: string): string | File | null => list.find(([n]) => n === name)?.[1] ?? null;
  const strange = list.find(([n]) => n !== "setup" && n !== "skipBadRows" && n !== "log");
  if (strange) return wrong(strange[0], "No such field.", "Send setup (optional), skipBadRows (optional) and log.");
  const twice = list.find(([n], k) => list.findIndex(([m]) => m === n) !== k);
  if (twice) return wrong(twice[0], "It is there twice.", "Send each field once.");
  const log = text("log");
  if (!(log instanceof File))
    return wrong(
      "log",
      log === null ? "It is missing." : "It is text, not a file.",
      "Send the log as a file: log=@FILE.csv.",
    );
  if (list.at(-1)?.[0] !== "log") return wrong(list.at(-1)?.[0] ?? "", "It comes after the log.", "Send the log last.");
  const setup = text("setup");
  const skip = text("skipBadRows");
  if (setup instanceof File || skip instanceof File)
    return wrong(
      setup instanceof File ? "setup" : "skipBadRows",
      "It is a file.",
      "Send it as text: setup=<FILE.setup.json.",
    );
  if (skip !== null && skip !== "yes" && skip !== "no") return wrong("skipBadRows", `“${skip}”`, "yes or no.");
  return { setup, skipBadRows: skip === "yes", log };
}
