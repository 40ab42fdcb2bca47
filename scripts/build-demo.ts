/** Makes the demo that ships with the application: measured on the simulated bench here, so that no page has to. */
import "fake-indexeddb/auto";
import { mkdirSync, writeFileSync } from "node:fs";
import { buildDemoWithLogs } from "@/core/demo";
import { DEMO_MOMENT, demoIds, packDemo, unpackDemo } from "@/core/demo/package";
import type { BoardRecord } from "@/core/files/records";
import { HERE } from "../src/notebook/here";
import { boardSummary } from "@/notebook";
import { appendChunk, change } from "@/storage";
import { database } from "@/storage/database";
import { derivedWritten } from "@/storage/derived";
import { chunked } from "@/storage/traces";

const OUT = "public/demo.json";

async function main(): Promise<void> {
  const made = buildDemoWithLogs({ newId: demoIds(), now: DEMO_MOMENT, zone: "UTC" });
  // What is worked out is worked out from what will be read: the same ids, the same digits.
  const plain = unpackDemo(packDemo({ ...made, derived: [] }), { newId: demoIds(), now: DEMO_MOMENT, zone: "UTC" });
  await change("demo", plain.records, { journal: false });
  for (const { runId, columns } of plain.logs) for (const chunk of chunked(runId, columns)) await appendChunk(chunk);
  for (const r of plain.records) if (r.kind === "board") await boardSummary(HERE, r as BoardRecord);
  // Results are written in the background.
  await derivedWritten();
  const derived = (await (await database()).getAll("derived"))
    .filter((d) => d.key.startsWith("run:") || d.key.startsWith("board:"))
    .map(({ key, stamp, value }) => ({ key, stamp, value }));
  mkdirSync("public", { recursive: true });
  const text = packDemo({ ...plain, derived });
  writeFileSync(OUT, text);
  console.log(
    `${OUT}: ${(text.length / 1e6).toFixed(2)} MB, ${plain.records.length} records, ${plain.logs.length} logs`,
  );
}
void main().then(() => process.exit(0));
