/** Compiles the JSON Schemas ahead of time: `ajv.compile` would need eval, which the page's policy forbids. */
import { writeFileSync } from "node:fs";
import Ajv from "ajv";
import standaloneCode from "ajv/dist/standalone";
import { ALL_SCHEMAS } from "@/core/files/schemas";

export function generate(): string {
  const ajv = new Ajv({ allErrors: false, strict: true, strictTypes: false, strictRequired: false, code: { source: true, esm: true, lines: false } });
  for (const { name, schema } of ALL_SCHEMAS) ajv.addSchema(schema, name);
  const code = standaloneCode(ajv, Object.fromEntries(ALL_SCHEMAS.map(({ name }) => [name, name])));
  // The generator still asks for its run-time helpers by require; bundlers want imports.
  const helpers: string[] = [];
  const body = code.replace(/const (\w+) = require\("([^"]+)"\)\.default;/g, (_, name: string, from: string) => {
    helpers.push(`import ${name}_ from ${JSON.stringify(from)};\nconst ${name} = ${name}_.default ?? ${name}_;`);
    return "";
  });
  return `/* Made by scripts/build-validators.ts from src/core/files/schemas.ts; npm run validators makes it anew. */\n${helpers.join("\n")}\n${body.replace(/^"use strict";/, "")}\n`;
}

if (process.argv[1]?.endsWith("build-validators.ts")) writeFileSync("src/core/files/validators.generated.js", generate());
