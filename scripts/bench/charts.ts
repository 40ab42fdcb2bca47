import { build } from "esbuild";
import { chromium } from "@playwright/test";
import { chromium as chromiumPath } from "../setup.mjs";
import { ARGUMENTS } from "./profile";
import type { Figure } from "./report";

const STEPS = 65;

/** Three linked charts of a log at every step of a zoom, drawn by the log's own chart and, for comparison, by Recharts. */
export async function chartFigures(): Promise<Figure[]> {
  const { outputFiles } = await build({
    entryPoints: ["scripts/bench/charts.page.tsx"],
    bundle: true,
    write: false,
    minify: true,
    format: "iife",
    jsx: "automatic",
    define: { "process.env.NODE_ENV": '"production"' },
  });
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: ARGUMENTS });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addScriptTag({ content: outputFiles[0]?.text ?? "" });
  const measured = (kind: string): Promise<number[]> =>
    page.evaluate(
      ([name, steps]) =>
        (window as unknown as { zoomed(kind: string, steps: number): Promise<number[]> }).zoomed(name, steps),
      [kind, STEPS] as const,
    );
  const own = await measured("own");
  const recharts = await measured("recharts");
  await browser.close();
  return [
    {
      name: "Three linked charts of a log at a step of a zoom, drawn",
      unit: "ms",
      judged: "p95",
      target: 50,
      values: own,
    },
    { name: "… the same drawn by Recharts", unit: "ms", judged: "p95", target: Infinity, values: recharts },
  ];
}
