import type { Finding, HouseRules } from "../measurement";
import { formatQuantity, highest, lowest } from "../quantities";
import { judgeRequirement, type Candidate, type Outcome } from "./judge-need";
import { stoppedBy, type Added } from "./added";
import type { Need, Requirement } from "./need";

/** A battery that was measured stands for one lower by this share at most: below lie switch-offs that it did not meet. */
const NEAR = 0.95;

/** What a board holds the more of, the higher its battery stands. */
const HELD = ["boost.max-current", "boost.start-current"];

/**
 * The volts that a converter sees behind a resistance, V: it draws constant power, so V′ = (V + √(V² − 4·R·P))/2.
 * Worked: 3.1 V, 50 mΩ and 1.4706 W leave 3.0761 V at 0.478 A. Null where the cell can't give that power through it.
 */
export function voltsBehind(cell: number, resistance: number, power: number): number | null {
  const root = cell * cell - 4 * resistance * power;
  return root < 0 ? null : (cell + Math.sqrt(root)) / 2;
}

/**
 * A requirement of amps at a battery voltage, judged as the board would stand behind an added board: what that trips at and cuts at ends it,
 * and behind its resistance the board sees less than the cell gives. What was held at a battery no higher than that counts, as a board holds the more the higher its battery stands;
 * so does what was held with enough to spare at one a little higher, as what a source gives at most falls with V (a limited current)
 * to V² (V²/4R through a resistance).
 * Null where the added board changes nothing of it.
 */
export function judgeBehind(
  r: Requirement,
  as: Outcome,
  b: Candidate,
  added: Pick<Added, "title" | "resistance" | "trip" | "cut">,
  need: Pick<Need, "currency">,
  rules: HouseRules,
): Outcome | null {
  const { resistance } = added;
  if (
    r.kind !== "quantity" ||
    (resistance <= 0 && !added.trip && !added.cut) ||
    as.word !== "met" ||
    !HELD.includes(r.reading.characteristic) ||
    r.reading.limit.kind !== "at-least"
  )
    return null;
  const { battery } = r.reading.conditions;
  const cell = !battery ? null : "at" in battery ? battery.at : "from" in battery ? battery.from : null;
  if (cell === null) return null;
  const findings = b.evidence
    .flatMap((s) => s.runs)
    .filter((x) => x.finished && x.setAside === null)
    .flatMap((x) => x.findings);
  const values = (name: string) =>
    findings.flatMap((f) => (f.characteristic === name && typeof f.value === "number" ? [f.value] : []));
  const [efficiency, output] = [lowest(values("boost.lowest-efficiency")), highest(values("boost.no-load-voltage"))];
  const unsure = (why: string): Outcome => ({ requirementId: r.id, word: "open", basis: "nothing", why });
  if (!(efficiency > 0 && Number.isFinite(efficiency) && output > 0))
    return unsure(
      `${formatQuantity(resistance, "Ω")} of the added board add to the battery path, and the board's battery current was not measured: run a load sweep.`,
    );
  const power = (output * r.reading.limit.low) / efficiency;
  const volts = voltsBehind(cell, resistance, power);
  if (volts === null)
    return {
      requirementId: r.id,
      word: "missed",
      basis: "changed",
      why: `Through ${formatQuantity(resistance, "Ω")} a cell at ${formatQuantity(cell, "V")} can't supply that power.`,
    };
  const stopped = stoppedBy(added, power / volts, cell);
  if (stopped) return { requirementId: r.id, word: "missed", basis: "changed", why: stopped };
  if (resistance <= 0) return null;
  return heldBehind(r, b, { cell, volts, resistance, amps: r.reading.limit.low, findings }, { need, rules, unsure });
}

/** Whether what was measured at the batteries around the voltage that the board still sees shows that it holds the load there. */
function heldBehind(
  r: Extract<Requirement, { readonly kind: "quantity" }>,
  b: Candidate,
  at: {
    readonly cell: number;
    readonly volts: number;
    readonly resistance: number;
    readonly amps: number;
    readonly findings: readonly Finding[];
  },
  by: { readonly need: Pick<Need, "currency">; readonly rules: HouseRules; unsure(why: string): Outcome },
): Outcome {
  const { cell, volts, resistance, findings } = at;
  const { need, rules, unsure } = by;
  const sees = `Behind ${formatQuantity(resistance, "Ω")} it sees ${formatQuantity(volts, "V")} of the cell's ${formatQuantity(cell, "V")}`;
  const batteries = [
    ...new Set(
      findings.flatMap((f) =>
        f.characteristic === r.reading.characteristic && typeof f.conditions.battery === "number"
          ? [f.conditions.battery]
          : [],
      ),
    ),
  ];
  const held = (battery: number, low: number): boolean =>
    judgeRequirement(
      {
        ...r,
        reading: {
          ...r.reading,
          limit: { kind: "at-least", low },
          conditions: { ...r.reading.conditions, battery: { at: battery } },
        },
      },
      b,
      need,
      rules,
    ).word === "met";
  const met = (why: string): Outcome => ({
    requirementId: r.id,
    word: "met",
    basis: "changed",
    why: `${sees}; ${why}`,
  });
  const low = at.amps;
  const below = highest(batteries.filter((v) => v <= volts));
  if (below > 0 && held(below, low)) return met(`at ${formatQuantity(below, "V")} it held enough.`);
  const above = lowest(batteries.filter((v) => v > volts && volts >= NEAR * v));
  if (above < Infinity && held(above, low * (above / volts) ** 2))
    return met(`at ${formatQuantity(above, "V")} it held enough to spare.`);
  return unsure(
    below > 0
      ? `${sees}; at ${formatQuantity(below, "V")}, the nearest measured below, it did not hold enough.`
      : `${sees}; it was not measured that low.`,
  );
}
