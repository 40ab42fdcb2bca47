/** npm run bench: what the application takes, beside what it may take. `-- core`, `-- days`, `-- charts`, `-- page`, `-- log`, `-- matrix`, `-- station`, `-- notebook` or `-- browser` (all) measures one part. */
import { browserFigures } from "./bench/browser";
import { chartFigures } from "./bench/charts";
import { computeFigures } from "./bench/compute";
import { dayFigures } from "./bench/days";
import { report } from "./bench/report";

async function main(only: string | undefined): Promise<boolean> {
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
  return report([...core, ...days, ...charts, ...browser]);
}
void main(process.argv[2]).then((good) => process.exit(good ? 0 : 1));
