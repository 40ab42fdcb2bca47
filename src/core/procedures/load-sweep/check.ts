import { formatQuantity } from "../../quantities";
import { impossibleReadings } from "../kit/impossible";
import { roleLabel, type Role, type Corrections, type Point, type RunSetup } from "../../measurement";
import type { Remark } from "../contract";
import { nextSweepStep } from "./guide";
import {
  atSupplyLimit,
  batteryShortfall,
  cellValue,
  LIMIT_SPREAD,
  loadSetOf,
  regulationBand,
  sweepPoint,
  supplyLimitOf,
} from "./points";
import { pointEfficiency } from "./record";
import type { SweepPlan } from "./plan";

const READ: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"];

/** Which of the four meters is most likely wrong when the efficiency comes out above one. */
function suspect(point: Point, expect: Partial<Record<Role, number>>): { role: Role; why: string } {
  const off = READ.flatMap((role) => {
    const value = cellValue(point, role);
    const e = expect[role];
    return value !== null && e !== undefined && e > 0 ? [{ role, deviation: Math.log(Math.max(value, 1e-9) / e) }] : [];
  });
  // Only readings that push the efficiency up are suspects: battery ones too low, output ones too high.
  const pushing = off.filter((o) => (o.role.startsWith("battery") ? o.deviation < 0 : o.deviation > 0));
  const worst = pushing.sort((a, b) => Math.abs(b.deviation) - Math.abs(a.deviation))[0];
  if (!worst) return { role: "batteryCurrent", why: "it is the reading most often spoiled by a wrong jack or range" };
  return {
    role: worst.role,
    why: `it is ${worst.deviation < 0 ? "lower" : "higher"} than the other three lead one to expect`,
  };
}

/**
 * What should be said of a sweep point as it is taken: a slipped unit, an efficiency over one (and the suspect meter),
 * the supply at its own limit, battery volts below what was set, a collapse, a point that did not dwell.
 */
export function checkSweepPoint(
  point: Point,
  setup: RunSetup<SweepPlan>,
  earlier: readonly Point[],
  corrections: Corrections,
): Remark[] {
  const remarks: Remark[] = [];
  const say = (code: string, severity: Remark["severity"], message: string, role?: Role) =>
    remarks.push({ code, severity, message, ...(role ? { role } : {}) });
  const q = formatQuantity;
  const load = loadSetOf(point, setup);
  const expect: Partial<Record<Role, number>> = setup.plan ? expectedAt(point, setup, earlier, corrections) : {};

  remarks.push(...impossibleReadings(point.cells, expect));
  const slips = remarks.length > 0;
  const efficiency = pointEfficiency(point, setup);
  const s = sweepPoint(point, setup, corrections, setup.plan?.dwell ?? 0, false);
  if (efficiency !== null && efficiency > 1 && !slips) {
    const { role, why } = suspect(point, expect);
    remarks.push({
      code: "efficiency-over-one",
      severity: "doubt",
      ask: true,
      role,
      message: `Efficiency ${q(efficiency, "1", { digits: 4 })}: output power can't exceed input power. Check the ${roleLabel(role).toLowerCase()} meter first: ${why}.`,
    });
  }
  const limit = supplyLimitOf(point, setup);
  const battery = cellValue(point, "batteryCurrent");
  if (battery !== null && limit !== undefined && battery > (1 + LIMIT_SPREAD) * limit)
    say(
      "limit-belied",
      "doubt",
      `Battery current ${q(battery, "A", { digits: 4 })} is above the stated supply limit of ${q(limit, "A")}. Correct the limit.`,
      "batteryCurrent",
    );
  else if (atSupplyLimit(point, setup) && battery !== null && limit !== undefined)
    say(
      "supply-limit",
      "doubt",
      `Battery current ${q(battery, "A", { digits: 4 })} is at the supply's own limit (${q(limit, "A")}): the supply limits here, not the module. Raise the limit.`,
      "batteryCurrent",
    );
  const short = batteryShortfall(point, setup);
  const set = point.settings.supplyVoltage;
  if (set !== undefined && short > 0.01 * set)
    say(
      "battery-below-set",
      "doubt",
      `Battery voltage is ${q(short, "V", { digits: 2 })} below the ${q(set, "V")} set: sense at the module's terminals, shorten the leads or raise the supply.`,
      "batteryVoltage",
    );
  const band = regulationBand(setup);
  if (s && s.fell && band)
    say(
      "collapse",
      "info",
      `Output ${q(s.outputV.value, "V", { digits: 4 })} is below the band (${q(band.low, "V")}): collapsed at ${load === null ? "this load" : q(load, "A", { digits: 3 })}.`,
      "outputVoltage",
    );
  else if (s && band && s.outputV.value > band.high)
    say(
      "above-band",
      "doubt",
      `Output ${q(s.outputV.value, "V", { digits: 4 })} is above the band (${q(band.high, "V")}).`,
      "outputVoltage",
    );
  if (setup.plan && point.dwell !== undefined && s && !s.dwelt && !s.fell)
    say(
      "not-dwelt",
      "info",
      `Dwell ${q(point.dwell, "s", { digits: 2 })} of ${q(setup.plan.dwell, "s")}: the point is saved but doesn't count as held.`,
    );
  for (const role of READ)
    if (cellValue(point, role) === null)
      say("missing", "info", `${roleLabel(role)} is missing: the point is saved but gives no efficiency.`, role);
  return remarks;
}

function expectedAt(
  point: Point,
  setup: RunSetup<SweepPlan>,
  earlier: readonly Point[],
  corrections: Corrections,
): Partial<Record<Role, number>> {
  const load = loadSetOf(point, setup);
  const set = point.settings.supplyVoltage;
  if (load === null || set === undefined || load <= 0) return set === undefined ? {} : { batteryVoltage: set };
  const proposal = nextSweepStep(setup, earlier, corrections);
  const same =
    proposal.settings.supplyVoltage === set &&
    Math.abs((proposal.expect.outputCurrent ?? -1) - load) < 0.02 * load + 1e-6;
  if (same) return proposal.expect;
  const nominal = setup.conditions.nominalOutput;
  if (!nominal) return { batteryVoltage: set, outputCurrent: load };
  return {
    batteryVoltage: set,
    outputVoltage: nominal,
    outputCurrent: load,
    batteryCurrent: (nominal * load) / (0.85 * set),
  };
}
