/** npm run bench: what the application takes, beside what it may take. `-- core`, `-- days`, `-- charts`, `-- page`, `-- log`, `-- matrix`, `-- station`, `-- notebook` or `-- browser` (all) measures one part. */
import { readFileSync } from "node:fs";
import { browserFigures } from "./bench/browser";
import { chartFigures } from "./bench/charts";
import { computeFigures } from "./bench/compute";
import { dayFigures } from "./bench/days";
import { report } from "./bench/report";

/** Processor time that whoever shares this machine took while it was wanted here, and all that there was, in ticks; null where the system does not say. */
function taken(): { readonly stolen: number; readonly all: number } | null {
  try {
    const ticks = (/^cpu +(.*)$/m.exec(readFileSync("/proc/stat", "utf8"))?.[1] ?? "").split(" ").map(Number);
    return { stolen: ticks[7] ?? 0, all: ticks.slice(0, 8).reduce((a, b) => a + b, 0) };
  } catch {
    return null;
  }
}

async function main(only: string | undefined): Promise<boolean> {
  const before = taken();
  const core = only === undefined || only === "core" ? computeFigures() : [];
  const days = only === undefined || only === "days" ? dayFigures() : [];
  const charts = only === undefined || only === "charts" ? await chartFigures() : [];
  const browser =
    only === "core" || only === "days" || only === "charts"
      ? []
      : await browserFigures(
          only === "page" || only === "log" || only === "matrix" || only === "station" || only === "notebook"
            ? only
            : "all",
        );
  const good = report([...core, ...days, ...charts, ...browser]);
  const after = taken();
  if (before && after)
    console.log(
      `Others on this machine took ${((100 * (after.stolen - before.stolen)) / Math.max(1, after.all - before.all)).toFixed(0)} % of its processors meanwhile.`,
    );
  return good;
}
void main(process.argv[2]).then((good) => process.exit(good ? 0 : 1));
