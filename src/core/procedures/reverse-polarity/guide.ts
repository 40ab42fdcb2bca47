import { formatQuantity } from "../../quantities";
import type { Corrections, Point, PointSettings, RunSetup } from "../../measurement";
import type { Proposal, Remark } from "../contract";
import type { ReversePlan } from "./plan";
import { isReversed, readingOfPoint, stagesOf } from "./stages";

const q = formatQuantity;

const expectation = (outputVoltage: number | undefined): Proposal["expect"] =>
  outputVoltage === undefined ? {} : { outputVoltage };

/** The next of the five readings; a reversal waits for a confirmation each time. */
export function nextReverseStep(
  setup: RunSetup<ReversePlan>,
  points: readonly Point[],
  corrections: Corrections,
): Proposal {
  const { plan, conditions } = setup;
  if (!plan) throw new Error("internal: an imported table has no next step");
  const s = stagesOf(points, corrections);
  const nominal = conditions.nominalOutput;
  const forwards = (load: number): PointSettings => ({
    supplyVoltage: plan.battery,
    ...(conditions.supplyCurrentLimit ? { supplyCurrentLimit: conditions.supplyCurrentLimit } : {}),
    load: { mode: "current", value: load },
  });
  const taken =
    [s.before.noLoad, s.before.load, s.after.noLoad, s.after.load].filter(Boolean).length + s.reversed.length;
  const progress = { taken, of: 4 + Math.max(plan.repeats, s.reversed.length) };
  const expected = (like: Point | null, load: number) => ({
    batteryVoltage: plan.battery,
    ...expectation((like && readingOfPoint(like, "outputVoltage")) ?? nominal),
    outputCurrent: load,
    ...(like ? { batteryCurrent: readingOfPoint(like, "batteryCurrent") ?? 0 } : {}),
  });
  const step = (
    text: string,
    settings: PointSettings,
    expect: Proposal["expect"],
    more: Partial<Proposal> = {},
  ): Proposal => ({ kind: "point", text, settings, expect, progress, ...more });

  if (!s.before.noLoad)
    return step(
      `Set the supply to ${q(plan.battery, "V")}, the right way round, and leave the output unloaded: how the board is now.`,
      forwards(0),
      expected(null, 0),
    );
  if (!s.before.load)
    return step(`Load it with ${q(plan.load, "A")}.`, forwards(plan.load), {
      ...expected(null, plan.load),
      ...(nominal ? { batteryCurrent: (nominal * plan.load) / (0.88 * plan.battery) } : {}),
    });
  if (s.reversed.length < plan.repeats) {
    const again = s.reversed.length > 0 ? ` This is reversal ${s.reversed.length + 1} of ${plan.repeats}.` : "";
    return step(
      `Load and supply off. Swap the leads at B+ and B−, through ${q(plan.ohms, "Ω")}; limit ${q(plan.reverseLimit, "A")}. Then switch the supply on and read.${again}`,
      {
        supplyVoltage: plan.battery,
        supplyCurrentLimit: plan.reverseLimit,
        load: { mode: "current", value: 0 },
        reversed: { ohms: plan.ohms },
      },
      { outputVoltage: 0, outputCurrent: 0 },
      {
        caution:
          "Ammeter and voltmeter now read below zero. Switch off as soon as you have read them, or at once if anything smells, smokes or warms.",
        confirm: `The supply goes to the board's battery terminals the wrong way round, through ${q(plan.ohms, "Ω")}. This may kill the board. No cell is connected, the leads are swapped, eyes are protected.`,
      },
    );
  }
  if (!s.after.noLoad)
    return step(
      "Supply off. Put the leads right again, without the resistor, then switch on: does it live? No load.",
      forwards(0),
      expected(s.before.noLoad, 0),
      { caution: "Check the polarity with a meter first: it was wrong on purpose a moment ago." },
    );
  if (!s.after.load)
    return step(
      `Load it with ${q(plan.load, "A")}, as before.`,
      forwards(plan.load),
      expected(s.before.load, plan.load),
    );
  return {
    kind: "done",
    text: "Both readings are repeated: read the result.",
    settings: {},
    expect: {},
    progress: { taken, of: taken },
  };
}

/** What to say of a reading as it is taken. */
export function checkReversePoint(
  point: Point,
  setup: RunSetup<ReversePlan>,
  earlier: readonly Point[],
  corrections: Corrections,
): Remark[] {
  const out: Remark[] = [];
  const volts = readingOfPoint(point, "batteryVoltage");
  const amps = readingOfPoint(point, "batteryCurrent");
  const output = readingOfPoint(point, "outputVoltage");
  const { plan } = setup;
  if (isReversed(point)) {
    if (amps === null)
      out.push({
        code: "missing",
        severity: "doubt",
        message: "The current is missing: without it the reversal shows nothing.",
        role: "batteryCurrent",
      });
    else if (plan && Math.abs(amps) >= 0.97 * plan.reverseLimit)
      out.push({
        code: "supply-limit",
        severity: "doubt",
        message: "The current is the supply's own limit: the board would take more.",
        role: "batteryCurrent",
      });
    if (volts !== null && volts > 0.02)
      out.push({
        code: "not-reversed",
        severity: "doubt",
        message: `The battery voltage is ${q(volts, "V", { digits: 3 })}, the right way round. Check that the leads are swapped.`,
        role: "batteryVoltage",
      });
    return out;
  }
  if (volts !== null && volts < -0.02)
    out.push({
      code: "still-reversed",
      severity: "doubt",
      message: "The battery voltage is negative: the leads are still swapped.",
      role: "batteryVoltage",
    });
  const { before } = stagesOf(earlier, corrections);
  const like = (point.settings.load?.value ?? 0) > 0 ? before.load : before.noLoad;
  const was = like && stagesOf(earlier, corrections).reversed.length ? readingOfPoint(like, "outputVoltage") : null;
  if (was !== null && output !== null && was > 0.5 && output < 0.5 * was)
    out.push({
      code: "dead",
      severity: "info",
      message: `The output is ${q(output, "V", { digits: 3 })}; before the reversal it was ${q(was, "V", { digits: 3 })}.`,
      role: "outputVoltage",
    });
  return out;
}
