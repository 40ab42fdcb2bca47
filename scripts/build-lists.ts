/** Writes the lists of all procedures and of all simulated benches from the catalogue: `npm run lists`. A test fails while one is not that of today. */
import { existsSync, writeFileSync } from "node:fs";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";

const NOTE = "/* Made by scripts/build-lists.ts from src/core/procedures/catalogue.ts; npm run lists makes it anew. */";
const camel = (id: string): string => id.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

/** A module that gathers one export of each of several modules beside it. */
const gathered = (name: string, type: string, ids: readonly string[], exported: (id: string) => string): string =>
  `${NOTE}
${ids.map((id) => `import { ${exported(id)} } from "./${id}";`).join("\n")}
import type { ${type} } from "./contract";

export const ${name}: readonly ${type}[] = [
${ids.map((id) => `  ${exported(id)},`).join("\n")}
];
`;

/** Path → content. A folder and a bench file export what the procedure's id says, in camel case. */
export function lists(): Readonly<Record<string, string>> {
  const ids = PROCEDURE_FACTS.map((f) => f.id);
  // In the order of their names: the demo is built in it.
  const simulated = ids.filter((id) => existsSync(`src/core/bench/${id}.ts`)).sort();
  return {
    "src/core/procedures/all.generated.ts": gathered("PROCEDURES", "Procedure", ids, camel),
    "src/core/bench/all.generated.ts": gathered("BENCHES", "ProcedureBench", simulated, (id) => `${camel(id)}Bench`),
  };
}

if (process.argv[1]?.endsWith("build-lists.ts"))
  for (const [path, content] of Object.entries(lists())) writeFileSync(path, content);
