import { quantile as quantileOf } from "d3-array";

/** One figure of a benchmark: its measurements, what of them is compared, and the target. */
export interface Figure {
  readonly name: string;
  readonly unit: "ms" | "kB" | "MB" | "%";
  readonly values: readonly number[];
  /** Which of the values' summary must stay under the target. */
  readonly judged: "median" | "p95" | "most";
  readonly target: number;
}

const quantile = (values: readonly number[], q: number): number => quantileOf(values, q) ?? NaN;

const judgedValue = (f: Figure): number =>
  f.judged === "median"
    ? quantile(f.values, 0.5)
    : f.judged === "p95"
      ? quantile(f.values, 0.95)
      : Math.max(...f.values);

/** Prints the figures as a table; returns whether every one keeps its target. */
export function report(figures: readonly Figure[]): boolean {
  const n = (x: number) => x.toFixed(x < 0.1 ? 4 : x < 10 ? 2 : 1).padStart(9);
  console.log(
    `${"".padEnd(62)}${"runs".padStart(5)}${"median".padStart(9)}${"p95".padStart(9)}${"most".padStart(9)}${"target".padStart(9)}   ratio`,
  );
  let good = true;
  for (const f of figures) {
    const ratio = judgedValue(f) / f.target;
    if (!(ratio <= 1)) good = false;
    console.log(
      `${f.name.padEnd(62)}${String(f.values.length).padStart(5)}${n(quantile(f.values, 0.5))}${n(quantile(f.values, 0.95))}${n(Math.max(...f.values))}${f.target === Infinity ? "".padStart(9) : n(f.target)} ${f.unit} ${f.target === Infinity ? "for comparison" : `${ratio.toFixed(2)} of target (${f.judged})${ratio <= 1 ? "" : "  OVER"}`}`,
    );
  }
  return good;
}

/** Times `run` so often, after one run to warm up, in ms. */
export function timed(times: number, run: () => unknown): number[] {
  run();
  return Array.from({ length: times }, () => {
    const t = performance.now();
    run();
    return performance.now() - t;
  });
}
