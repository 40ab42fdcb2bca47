import { readdirSync, readFileSync } from "node:fs";
import { join, relative, sep } from "node:path";
import ts from "typescript";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";

const SRC = join(__dirname, "..");

/** Where a procedure may be named by its id: its folder, its bench, the demo, and the dictionary's line of runs. */
const mayName = (file: string, id: string): boolean =>
  file.startsWith(`core/procedures/${id}/`) ||
  file === `core/bench/${id}.ts` ||
  file.startsWith("core/demo/") ||
  file === "core/characteristics/dictionary.ts" ||
  file.startsWith("testing/");

/** Ids that are words of other meanings too, and the files in which they are only those. */
const OTHER_MEANINGS: Readonly<Record<string, readonly RegExp[]>> = {
  // What a meter's display shows beyond its range.
  overload: [/^(features|ports|core\/(files|measurement))\//, /core\/procedures\/kit\/silence\.ts$/],
  // What a board does.
  "power-path": [/core\/characteristics\/functions\.ts$/, /core\/procedures\/[a-z-]+\/facts\.ts$/, /features\/use\//],
  "solar-input": [/core\/characteristics\/functions\.ts$/],
  // What a pack or a ramp does.
  discharge: [/core\/procedures\/(pack-charge|threshold-ramp)\//],
  // A part of a sheet; a label of a house rule.
  behaviour: [/core\/sheet\/sentences\.ts$/],
  standby: [/core\/measurement\/house-rules\.ts$/],
};

const files = (dir: string): string[] =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) => {
    const path = join(dir, e.name);
    if (e.isDirectory()) return files(path);
    return /\.tsx?$/.test(e.name) && !/\.(test|generated)\.|\.d\.ts$/.test(e.name) ? [path] : [];
  });

/** Every text of a file that is no import, with its line. */
function texts(path: string): { readonly text: string; readonly line: number }[] {
  const out: { text: string; line: number }[] = [];
  const source = ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isCallExpression(node) && node.expression.kind === ts.SyntaxKind.ImportKeyword) return;
    if (ts.isStringLiteralLike(node))
      out.push({ text: node.text, line: 1 + source.getLineAndCharacterOfPosition(node.getStart()).line });
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

test("a procedure is named by its id only in its folder, its bench, the demo and the dictionary", () => {
  const ids = new Set(PROCEDURE_FACTS.map((f) => f.id));
  const named = files(SRC).flatMap((path) => {
    const file = relative(SRC, path).split(sep).join("/");
    return texts(path).flatMap(({ text, line }) => (ids.has(text) ? [{ file, id: text, line }] : []));
  });
  // It sees the places where they are named rightly, so it would see one that is not.
  for (const id of ids) expect([id, named.some((n) => n.id === id && mayName(n.file, id))]).toEqual([id, true]);
  const others = named.filter(({ file, id }) => !mayName(file, id) && !OTHER_MEANINGS[id]?.some((re) => re.test(file)));
  expect(others.map(({ file, id, line }) => `${file}:${line} “${id}”`)).toEqual([]);
});
