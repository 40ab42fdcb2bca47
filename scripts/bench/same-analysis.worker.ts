import { NO_CORRECTIONS, type RunSetup } from "../../src/core/measurement";
import { analyseReadings } from "../../src/core/procedures/kit/offsets";
import { loadProcedure } from "../../src/core/procedures/catalogue";
import type { TraceColumns } from "../../src/core/files/trace-columns";

declare const uDSV: {
  inferSchema(text: string): unknown;
  initParser(schema: unknown): { stringArrs(text: string): string[][] };
};

/** What the application's import has to be as fast as: the registry's fastest CSV parser into columns, then the application's own analysis; nothing is stored. */
const scope = self as unknown as {
  onmessage: (e: MessageEvent<{ file: Blob; rows: number; setup: RunSetup }>) => Promise<void>;
  postMessage(m: unknown): void;
};
scope.onmessage = async ({ data: { file, rows, setup } }) => {
  const begun = performance.now();
  const text = await file.text();
  const roles = ["time", "inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent", "partTemperature"] as const;
  const columns = roles.map(() => new Float64Array(rows));
  let n = 0;
  for (const row of uDSV.initParser(uDSV.inferSchema(text)).stringArrs(text)) {
    for (let k = 0; k < columns.length; k++) (columns[k] as Float64Array)[n] = Number(row[k]);
    n++;
  }
  if (n !== rows) throw new Error(`read ${n} rows of ${rows}`);
  const parsed = performance.now();
  const p = await loadProcedure("charge-cycle");
  if (!p) throw new Error("no procedure");
  const found = analyseReadings(
    p,
    {
      kind: "trace",
      trace: { columns: Object.fromEntries(roles.map((r, k) => [r, columns[k]])) as TraceColumns, events: [] },
    },
    setup,
    NO_CORRECTIONS,
  );
  scope.postMessage({ whole: performance.now() - begun, parsed: parsed - begun, findings: found.findings.length });
};
