import { DEMO_MOMENT, demoIds } from "../demo/package";
import { packedDemo } from "@/testing/demo";
import { owner, references, renamed } from "./record-links";
import {
  RECORD_KINDS,
  type InstrumentRecord,
  type IssuedRecord,
  type RigRecord,
  type RunRecord,
  type StoredRecord,
} from "./records";

const all = packedDemo(demoIds(), DEMO_MOMENT).records;
const of = <K extends StoredRecord["kind"]>(kind: K) =>
  all.filter((r): r is Extract<StoredRecord, { kind: K }> => r.kind === kind);
const meter = of("instrument").find((i) => i.title === "Dunlin B") as InstrumentRecord;
const rig = of("rig")[0] as RigRecord;
const run = of("run").find((r) => r.setup.meters?.outputVoltage) as RunRecord;

describe("what a record points to", () => {
  test("a rig and a run point to their meters, each once for every role", () => {
    expect(references(rig).filter((id) => id === meter.id)).toHaveLength(1);
    expect(references(run)).toEqual(expect.arrayContaining([run.notebookId, run.boardId, run.sampleId, meter.id]));
  });
  test("every id that the demo points to is there", () => {
    const ids = new Set(all.map((r) => r.id as string));
    for (const r of all)
      for (const id of references(r))
        expect([r.kind, r.id, ids.has(id) || id.includes(":")]).toEqual([r.kind, r.id, true]);
  });
  test("parts belong to their run, cell, sample or board; the rest stands by itself", () => {
    const issued = { kind: "issued", boardId: "b" } as unknown as IssuedRecord;
    expect(owner(issued)).toBe("b");
    expect(owner(rig)).toBeNull();
    expect(owner(meter)).toBeNull();
    expect(owner(of("claim")[0] as StoredRecord)).toBe(of("claim")[0]?.boardId);
    expect(owner(of("point")[0] as StoredRecord)).toBe(of("point")[0]?.runId);
  });
  test("the demo has a record of every kind but what a tester adds: photos, issued sheets, conflicts", () => {
    expect(RECORD_KINDS.filter((k) => of(k).length === 0)).toEqual(["issued", "photo", "conflict"]);
  });
});

describe("copies point to copies", () => {
  test("a run that is renamed follows its instrument, and keeps the rest of its set-up to the letter", () => {
    const names = new Map([
      [run.id as string, "new-run"],
      [meter.id as string, "new-meter"],
    ]);
    const copy = renamed(run, names);
    expect(copy.id).toBe("new-run");
    expect(copy.setup.meters?.outputVoltage?.instrumentId).toBe("new-meter");
    expect(copy.setup.meters?.batteryVoltage).toEqual(run.setup.meters?.batteryVoltage);
    expect({ ...copy.setup, meters: null }).toEqual({ ...run.setup, meters: null });
    expect(run.setup.meters?.outputVoltage?.instrumentId).toBe(meter.id);
  });
  test("a rig too; what has no meters is not given any", () => {
    expect(renamed(rig, new Map([[meter.id as string, "m2"]])).meters?.outputVoltage?.instrumentId).toBe("m2");
    const { meters: _none, ...bare } = rig;
    void _none;
    expect("meters" in renamed(bare as RigRecord, new Map())).toBe(false);
  });
});
