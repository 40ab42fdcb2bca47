import { readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";

/** A text in the source that a person may read. */
export interface WrittenText {
  readonly file: string;
  readonly line: number;
  /** Where it stands: text of an element, the attribute it is given to, or the literal that it is. */
  readonly place: "element" | "literal" | `attribute ${string}`;
  /** Its words; "…" stands for what is put in while it runs. */
  readonly text: string;
}

/** Attributes that nobody reads. */
const CODE = new Set([
  "className",
  "href",
  "id",
  "key",
  "type",
  "role",
  "data-testid",
  "htmlFor",
  "name",
  "value",
  "look",
  "accept",
  "inputMode",
  "autoComplete",
  "rel",
  "target",
  "d",
  "viewBox",
  "fill",
  "stroke",
  "as",
  "style",
]);

/** All files with code that ships under a folder, those with tests and those that are generated left out. */
export function shippedFiles(folder: string): string[] {
  return readdirSync(folder)
    .flatMap((name) => {
      const path = join(folder, name);
      if (statSync(path).isDirectory()) return name === "fixtures" || name === "testing" ? [] : shippedFiles(path);
      return /\.tsx?$/.test(name) && !/\.(test|generated|d)\.tsx?$/.test(name) && !name.includes(".generated")
        ? [path]
        : [];
    })
    .sort();
}

/** What a literal inside such a node says is for the machine: a module's name, a type, a key, something compared with. */
function machine(node: ts.Node): boolean {
  const { parent } = node;
  if (
    ts.isImportDeclaration(parent) ||
    ts.isExportDeclaration(parent) ||
    ts.isLiteralTypeNode(parent) ||
    ts.isExternalModuleReference(parent) ||
    ts.isCaseClause(parent)
  )
    return true;
  if (ts.isPropertyAssignment(parent) && parent.name === node) return true;
  if (ts.isElementAccessExpression(parent)) return true;
  if (
    ts.isBinaryExpression(parent) &&
    [
      ts.SyntaxKind.EqualsEqualsEqualsToken,
      ts.SyntaxKind.ExclamationEqualsEqualsToken,
      ts.SyntaxKind.InKeyword,
    ].includes(parent.operatorToken.kind)
  )
    return true;
  return (
    ts.isCallExpression(parent) &&
    parent.expression
      .getText()
      .match(
        /^(clsx|require|import|startsWith)$|\.(has|get|startsWith|endsWith|includes|indexOf|split|join|querySelector(All)?|getItem|setItem|matchMedia|ask|transaction|objectStore|index|addEventListener)$/,
      ) !== null
  );
}

/** The texts of one file that a person may read: those with a capital letter at their head or more than one word. */
export function writtenTexts(file: string): WrittenText[] {
  const source = ts.createSourceFile(
    file,
    readFileSync(file, "utf8"),
    ts.ScriptTarget.ES2022,
    true,
    file.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const out: WrittenText[] = [];
  const say = (node: ts.Node, place: WrittenText["place"], raw: string) => {
    const text = raw.replace(/\s+/g, " ").trim();
    if (!/[a-zA-Z]{2}/.test(text) || !(/^["“]?[A-Z]/.test(text) || text.includes(" ") || place !== "literal")) return;
    out.push({ file, line: source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1, place, text });
  };
  const visit = (node: ts.Node, attribute: string | null): void => {
    if (ts.isJsxAttribute(node)) {
      const name = node.name.getText(source);
      if (CODE.has(name)) return;
      ts.forEachChild(node, (c) => visit(c, name));
      return;
    }
    const place: WrittenText["place"] = attribute ? `attribute ${attribute}` : "literal";
    if (ts.isJsxText(node)) say(node, "element", node.text);
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (!machine(node)) say(node, place, node.text);
    } else if (ts.isTemplateExpression(node) && !machine(node))
      say(node, place, node.head.text + node.templateSpans.map((s) => `…${s.literal.text}`).join(""));
    ts.forEachChild(node, (c) => visit(c, ts.isJsxElement(node) || ts.isJsxFragment(node) ? null : attribute));
  };
  visit(source, null);
  return out;
}
