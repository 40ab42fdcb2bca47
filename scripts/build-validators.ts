/** Compiles the JSON Schemas ahead of time: `ajv.compile` would need eval, which the page's policy forbids. */
import { writeFileSync } from "node:fs";
import Ajv from "ajv";
import standaloneCode from "ajv/dist/standalone";
import { NAMED_QUESTION_SCHEMAS } from "@/core/files/question-schemas";
import { ALL_SCHEMAS } from "@/core/files/schemas";

type Named = readonly { readonly name: string; readonly schema: object }[];

export function generate(schemas: Named = ALL_SCHEMAS, from = "schemas.ts"): string {
  const ajv = new Ajv({
    allErrors: false,
    strict: true,
    strictTypes: false,
    strictRequired: false,
    code: { source: true, esm: true, lines: false },
  });
  for (const { name, schema } of schemas) ajv.addSchema(schema, name);
  const code = standaloneCode(ajv, Object.fromEntries(schemas.map(({ name }) => [name, name])));
  // The generator still asks for its run-time helpers by require; bundlers want imports.
  const helpers: string[] = [];
  const body = code.replace(/const (\w+) = require\("([^"]+)"\)\.default;/g, (_, name: string, from: string) => {
    helpers.push(`import ${name}_ from ${JSON.stringify(from)};\nconst ${name} = ${name}_.default ?? ${name}_;`);
    return "";
  });
  return `/* Made by scripts/build-validators.ts from src/core/files/${from}; npm run validators makes it anew. */\n${helpers.join("\n")}\n${body.replace(/^"use strict";/, "")}\n`;
}

export const generateQuestions = (): string => generate(NAMED_QUESTION_SCHEMAS, "question-schemas.ts");

if (process.argv[1]?.endsWith("build-validators.ts")) {
  writeFileSync("src/core/files/validators.generated.js", generate());
  writeFileSync("src/core/files/questions.generated.js", generateQuestions());
}
