import { checksum, mergeRecords, readArchive, writeArchive } from "@/core/files/archive";
import { guessMapping } from "@/core/files/mapping";
import { importPoints } from "@/core/files/import-points";
import { readTable } from "@/core/files/table";
import { buildDemo } from "@/core/demo";
import { chooseLoads } from "@/core/procedures/load-sweep/resistors";
import { SIMULATED_BOARDS, TextInstruments, VirtualBench, benchFor } from "@/core/simulator";
import type { TaskName, Tasks } from "./protocol";

/** A virtual bench that lives by the wall clock: it catches up whenever it is spoken to. */
class LiveBench {
  private readonly bench: VirtualBench;
  private readonly text: TextInstruments;
  private factor = 1;
  private last = performance.now();

  constructor(ask: Tasks["bench-open"]["ask"]) {
    this.bench = new VirtualBench(
      benchFor(SIMULATED_BOARDS[ask.board].model, ask.seed, { inputLeadResistance: ask.inputLeadResistance, outputLeadResistance: ask.outputLeadResistance }),
    );
    this.text = new TextInstruments(this.bench);
  }

  private catchUp(): void {
    const t = performance.now();
    // A page that slept for hours must not make the bench compute them second by second.
    this.bench.advance(Math.min(3600, ((t - this.last) / 1000) * this.factor));
    this.last = t;
  }
  pace(factor: number): void {
    this.catchUp();
    this.factor = Math.min(3600, Math.max(0.1, factor));
  }
  exchange({ lines }: Tasks["bench-exchange"]["ask"]): Tasks["bench-exchange"]["give"] {
    this.catchUp();
    const answers = lines.map(({ address, line }) => {
      const answer = this.text.send(address, line);
      // A supply that is switched off takes a moment to be off.
      if (/^OUTP OFF/i.test(line)) this.bench.advance(1);
      return answer;
    });
    return { answers, time: this.bench.time };
  }
}

let live: LiveBench | null = null;
const bench = (): LiveBench => {
  if (!live) throw new Error("no bench is open");
  return live;
};

export const TASKS: { [K in TaskName]: (ask: Tasks[K]["ask"]) => Tasks[K]["give"] } = {
  resistors: ({ targets, volts, drawer }) => chooseLoads(targets, volts, drawer),
  demo: ({ now, zone }) => buildDemo({ now, zone, newId: () => crypto.randomUUID() }),
  table: ({ text, dialect }) => {
    const t = readTable(text, dialect);
    return t.ok ? { table: t.value, mapping: guessMapping(t.value) } : { error: t.error };
  },
  points: ({ text, dialect, mapping, fileId }) => {
    const t = readTable(text, dialect);
    if (!t.ok) return { error: t.error };
    const p = importPoints(t.value, mapping, fileId);
    return p.ok ? { ...p.value, sha256: checksum(new TextEncoder().encode(text)) } : { error: p.error };
  },
  "archive-write": ({ records, at }) => writeArchive(records, at),
  "archive-read": ({ bytes }) => {
    const a = readArchive(bytes);
    return a.ok ? { records: a.value.records, title: a.value.manifest.title, notebookId: a.value.manifest.notebookId } : { error: a.error };
  },
  merge: ({ present, incoming }) => mergeRecords(present, incoming, () => crypto.randomUUID()),
  "bench-open": (ask) => {
    live = new LiveBench(ask);
    return null;
  },
  "bench-exchange": (ask) => bench().exchange(ask),
  "bench-pace": ({ factor }) => {
    bench().pace(factor);
    return null;
  },
};
