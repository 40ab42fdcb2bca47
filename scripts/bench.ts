/** npm run bench: what the application takes, beside what it may take. `-- core` or `-- browser` measures one part. */
import { browserFigures } from "./bench/browser";
import { computeFigures } from "./bench/compute";
import { report, type Figure } from "./bench/report";

const only = process.argv[2];
const figures: Figure[] = [];
if (only !== "browser") figures.push(...computeFigures());
if (only !== "core") figures.push(...(await browserFigures()));
process.exit(report(figures) ? 0 : 1);
