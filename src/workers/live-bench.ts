import { SIMULATED_BOARDS, TextInstruments, VirtualBench, benchFor } from "@/core/simulator";
import { applySettings } from "@/core/rehearsal";
import type { Tasks } from "./protocol";

/** A virtual bench that lives by the wall clock: it catches up whenever it is spoken to. */
export class LiveBench {
  private readonly bench: VirtualBench;
  private readonly text: TextInstruments;
  private factor = 1;
  private last = performance.now();

  constructor(ask: Tasks["bench-open"]["ask"]) {
    this.bench = new VirtualBench(
      benchFor(SIMULATED_BOARDS[ask.board].model, ask.seed, {
        inputLeadResistance: ask.inputLeadResistance,
        outputLeadResistance: ask.outputLeadResistance,
      }),
    );
    this.text = new TextInstruments(this.bench);
    for (const settings of ask.done.filter((s) => s.reversed)) {
      applySettings(this.bench, settings);
      this.bench.advance(2);
    }
    this.bench.setReversed(null);
    this.bench.setSupply({ on: false });
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
