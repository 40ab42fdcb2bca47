import { SCHEMA_VERSION } from "../records";

/** What an archive says of itself to whoever unpacks it without this application. `title` is one line of text. */
export const archiveReadme = (
  title: string,
  exportedAt: string,
): string => `# Nimbus Bench notebook: ${title.replace(/[\r\n]+/g, " ")}

Exported ${exportedAt.slice(0, 16).replace("T", " ")} UTC, archive format ${SCHEMA_VERSION}. Import the zip into Nimbus Bench, or read it as it is: everything here is text, JSON or the files that were imported.

| where | what |
|---|---|
| \`manifest.json\` | format, notebook, and the SHA-256 and size in bytes of every other file |
| \`records/KIND.json\` | one record a line: boards, claims, samples, runs, points, cells, instruments … A long list continues in \`KIND.2.json\`. A record with \`deletedAt\` was deleted |
| \`schemas/KIND.json\` | the JSON Schema of each kind of record, and of the manifest |
| \`files/ID.csv\` | imported files, byte for byte as they came; \`records/file.json\` has their names |
| \`logs/ID.csv\` | logs recorded here, named by their run: a column a quantity, unit in the head, one row a reading |
| \`photos/ID\` | photos; \`records/photo.json\` has their types |
| \`sheets/\` | findings sheets as Markdown, today's and, under \`issued\`, those that were issued |

Numbers are in SI units (V, A, Ω, W, s, m) and Ah, Wh, °C; ratios are plain numbers, not per cent. Moments are ISO 8601 in UTC. Readings are as they were read; results and verdicts are worked out from them and are not stored. Uncertainties are expanded, k = 2.

A run (\`records/run.json\`) names its board, sample and procedure. Its readings are the points with its \`runId\` (\`records/point.json\`), its log (\`logs/\`) or the file that \`source\` names, read with the columns, units and separators given there. Corrections (\`records/annotation.json\`) lie over the readings, each with its reason.
`;
