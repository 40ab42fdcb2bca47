import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";

const APP = join(__dirname, "../app");

/** Files of the interface, tests apart. */
const files = (dir: string): string[] =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) => {
    const path = join(dir, e.name);
    return e.isDirectory() ? files(path) : /\.tsx?$/.test(e.name) && !/\.test\.tsx?$/.test(e.name) ? [path] : [];
  });

/** Whether a path, its filled-in parts as `*`, has a page. */
function hasPage(path: string): boolean {
  let dirs = [APP];
  for (const part of path.split("/").filter(Boolean))
    dirs = dirs.flatMap((dir) =>
      readdirSync(dir, { withFileTypes: true })
        .filter((e) => e.isDirectory() && (e.name === part || e.name.startsWith("[") || part === "*"))
        .map((e) => join(dir, e.name)),
    );
  return dirs.some((dir) => existsSync(join(dir, "page.tsx")) || existsSync(join(dir, "route.ts")));
}

/** Where links and moves of a file lead within the application: every text that begins like a path of it, its filled-in parts as `*`. */
function targets(file: string): string[] {
  const out: string[] = [];
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const visit = (node: ts.Node): void => {
    const text = ts.isTemplateExpression(node)
      ? [node.head.text, ...node.templateSpans.map((span) => span.literal.text)].join("*")
      : ts.isStringLiteralLike(node)
        ? node.text
        : "";
    if (/^\/[a-z]/.test(text) && !/\.[a-z]+$/.test(text))
      out.push(text.replace(/[?#].*$/, "").replace(/([^/])\*$/, "$1"));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

test("every link within the application leads to a page", () => {
  const all = ["features", "ui", "app"].flatMap((room) =>
    files(join(__dirname, "..", room)).flatMap((file) => targets(file).map((to) => ({ file, to }))),
  );
  expect(all.length).toBeGreaterThan(40);
  expect(all.filter(({ to }) => !hasPage(to)).map(({ file, to }) => `${file.split("/src/")[1]}: ${to}`)).toEqual([]);
});
