import { defineConfig, globalIgnores } from "eslint/config";
import vitals from "eslint-config-next/core-web-vitals";
import typescript from "eslint-config-next/typescript";
import { EXCEPTIONS } from "./eslint.exceptions.mjs";

/** The most lines and the most branches of one function. */
const limits = (lines, complexity) => ({
  "max-lines-per-function": ["error", { max: lines, skipBlankLines: true, skipComments: true }],
  complexity: ["error", complexity],
});

/** A list of a million readings, spread into arguments, overflows the stack. */
const SPREAD_EXTREME = {
  selector: "CallExpression[callee.object.name='Math'][callee.property.name=/^(max|min)$/] > SpreadElement",
  message: "Use highest or lowest: a long list can't be spread into arguments.",
};

/** The core knows no clock, chance, page, store or machine: they come in as arguments. */
const pure = {
  files: ["src/core/**/*.ts"],
  ignores: ["src/core/**/*.test.ts"],
  rules: {
    "no-restricted-globals": [
      "error",
      ...[
        "window",
        "document",
        "navigator",
        "localStorage",
        "indexedDB",
        "fetch",
        "crypto",
        "process",
        "performance",
        "setTimeout",
        "setInterval",
        "self",
        "Worker",
      ].map((name) => ({
        name,
        message: "The core is pure: hand it in as an argument.",
      })),
    ],
    "no-restricted-properties": [
      "error",
      { object: "Date", property: "now", message: "The core has no clock: hand the time in." },
      { object: "Math", property: "random", message: "The core has no chance: hand a seeded stream in." },
    ],
    "no-restricted-syntax": [
      "error",
      SPREAD_EXTREME,
      {
        selector: "NewExpression[callee.name='Date'][arguments.length=0]",
        message: "The core has no clock: hand the time in.",
      },
    ],
    "no-restricted-imports": ["error", { patterns: ["react", "react-dom", "next/*", "idb", "node:*", "@/*"] }],
  },
};

export default defineConfig([
  ...vitals,
  ...typescript,
  globalIgnores([
    ".next/**",
    "node_modules/**",
    "test-results/**",
    "playwright-report/**",
    "next-env.d.ts",
    "src/core/files/*.generated.js",
  ]),
  {
    rules: {
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/consistent-type-imports": "error",
      "no-console": ["error", { allow: ["error"] }],
      "no-restricted-syntax": ["error", SPREAD_EXTREME],
    },
  },
  // The table library hands out functions that must not be memoised; nothing here is compiled to memoise them.
  { files: ["src/features/review/points-table.tsx"], rules: { "react-hooks/incompatible-library": "off" } },
  // Pictures out of the browser's own storage: there is nothing for an image server to do.
  { files: ["src/features/board/sample-photos.tsx"], rules: { "@next/next/no-img-element": "off" } },
  { files: ["scripts/**"], rules: { "no-console": "off" } },
  // The few numbers of a test are spread as one likes.
  { files: ["**/*.test.ts", "**/*.test.tsx", "tests/**", "scripts/**"], rules: { "no-restricted-syntax": "off" } },
  // What is longer or more branched is two parts. A component may have 100 lines, of which half is layout.
  { files: ["src/**/*.ts"], ignores: ["**/*.test.ts"], rules: limits(80, 30) },
  { files: ["src/**/*.tsx"], ignores: ["**/*.test.tsx"], rules: limits(100, 30) },
  ...Object.entries(EXCEPTIONS).map(([file, most]) => ({
    files: [file],
    rules: limits(most.lines ?? (file.endsWith(".tsx") ? 100 : 80), most.complexity ?? 30),
  })),
  pure,
]);
