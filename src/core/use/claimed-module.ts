import { meetsCondition, type ConditionSpecs } from "../characteristics";
import { limitBounds, type Claim, type ClaimReading } from "../claims";
import type { HouseRules } from "../measurement";
import { lowest } from "../quantities";
import type { MeasuredColumn, MeasuredModule } from "./measured-module";

const readings = (claims: readonly Claim[], name: string): ClaimReading[] =>
  claims.flatMap((c) => c.readings.filter((r) => r.characteristic === name));

/** What a limit promises: its nominal value, the middle of a range, or its one side; null for words. */
function promised({ limit }: ClaimReading, rules: HouseRules): number | null {
  if (limit.kind === "nominal") return limit.nominal;
  const b = limitBounds(limit, rules.houseTolerance);
  if (!b) return null;
  return Number.isFinite(b.low) && Number.isFinite(b.high)
    ? (b.low + b.high) / 2
    : Number.isFinite(b.low)
      ? b.low
      : b.high;
}

const speaksAt = (conditions: ConditionSpecs, battery: number): boolean =>
  !conditions.battery || meetsCondition("battery", conditions.battery, battery);

/** The cautious value of several claims: the lowest that any of them promises; null where none does. */
function least(of: readonly ClaimReading[], rules: HouseRules): number | null {
  const values = of.flatMap((r) => promised(r, rules) ?? []);
  return values.length ? lowest(values) : null;
}

const NO_LOAD = "no-load";

/**
 * A module as its claims describe it, for a board of which nothing was measured: one efficiency for all loads, the claimed load as its limit,
 * at a full and a nearly empty battery of the house. Null where they give no output, no highest load or no efficiency: nothing can then be
 * said. Worked: 5 V, 1 A and 90 % lose 0.556 W for each ampere and take 1.79 A from 3.1 V.
 */
export function claimedModule(claims: readonly Claim[], rules: HouseRules): MeasuredModule | null {
  const output = least(readings(claims, "boost.no-load-voltage"), rules);
  const efficiency =
    least(readings(claims, "boost.lowest-efficiency"), rules) ??
    least(readings(claims, "boost.peak-efficiency"), rules);
  if (output === null || efficiency === null || !(output > 0) || !(efficiency > 0.2 && efficiency <= 1)) return null;
  const standby = readings(claims, "standby.current");
  const inState = (states: readonly string[]) =>
    least(
      standby.filter(
        (r) => r.conditions.state && "word" in r.conditions.state && states.includes(r.conditions.state.word),
      ),
      rules,
    );
  const idle = inState([NO_LOAD]) ?? 0;
  const loads = readings(claims, "boost.max-current");
  const columns = [rules.batteryEmpty, rules.batteryFull].flatMap((battery): MeasuredColumn[] => {
    const load = least(
      loads.filter((r) => speaksAt(r.conditions, battery)),
      rules,
    );
    if (load === null || !(load > 0)) return [];
    const loss = {
      idle: idle * battery,
      proportional: output * (1 / efficiency - 1),
      resistive: 0,
      outliers: [],
      scatter: 0,
    };
    return [
      {
        battery,
        loss,
        output,
        held: { load, battery: (output * load) / efficiency / battery + idle },
        fell: false,
        spread: 0,
      },
    ];
  });
  if (columns.length === 0) return null;
  const off = inState(["output-off", "auto-off"]);
  return {
    sample: "",
    runId: "",
    runTitle: "",
    simulated: false,
    claimed: true,
    columns,
    cut: least(readings(claims, "protect.over-discharge-voltage"), rules),
    dropout: null,
    off: off === null ? null : { value: off, u: 0 },
    residual: null,
    starts: [],
  };
}
