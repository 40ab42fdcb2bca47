import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { EMPTY_STYLE_HASH, NOTICE_STYLE_HASH, securityPolicy } from "./security-policy";

const hash = (text: string) => `sha256-${createHash("sha256").update(text).digest("base64")}`;

test("the notice package's style sheet is the one the policy names", () => {
  const code = readFileSync("node_modules/sonner/dist/index.mjs", "utf8");
  const line = code.split("\n").find((l) => l.startsWith('__insertCSS("')) ?? "";
  const css = JSON.parse(line.slice("__insertCSS(".length, line.lastIndexOf(")"))) as string;
  expect(hash(css)).toBe(NOTICE_STYLE_HASH);
  expect(hash("")).toBe(EMPTY_STYLE_HASH);
});

test("in production nothing is evaluated, inlined or fetched from elsewhere", () => {
  const policy = securityPolicy("abc", false);
  expect(policy).not.toContain("unsafe");
  expect(policy).not.toMatch(/https?:|\*/);
  expect(policy).toContain("default-src 'none'");
  expect(policy).toContain("'nonce-abc'");
});
