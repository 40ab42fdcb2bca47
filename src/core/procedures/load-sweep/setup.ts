import { formatQuantity } from "../../quantities";
import type { RunSetup } from "../../measurement";
import type { WiringSketch } from "../contract";
import type { SweepPlan } from "./plan";

const q = formatQuantity;

/** Supply as battery → module → load, an ammeter in each plus wire, a voltmeter at each pair of the module's terminals. */
export function sweepWiring(setup: RunSetup<SweepPlan>): WiringSketch {
  const { plan, conditions } = setup;
  const resistors = plan?.drawer !== undefined;
  const inLeads = conditions.inputLeadResistance ?? 0;
  const outLeads = conditions.outputLeadResistance ?? 0;
  const top = plan?.loads[plan.loads.length - 1];
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as battery",
        lines: [
          plan ? plan.batteries.map((v) => q(v, "V")).join(" → ") : "as logged",
          conditions.supplyCurrentLimit ? `limit ${q(conditions.supplyCurrentLimit, "A")}` : "limit not stated",
        ],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: conditions.nominalOutput ? [`output ${q(conditions.nominalOutput, "V")}`] : [],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
      {
        id: "load",
        kind: "load",
        title: resistors ? "Power resistors" : "Electronic load",
        lines: [resistors ? "from the drawer" : "constant current", ...(top ? [`up to ${q(top, "A")}`] : [])],
        left: ["+", "−"],
      },
    ],
    gaps: [
      {
        ammeter: "battery current",
        voltmeter: "battery voltage",
        clips: inLeads > 0 ? "left" : "right",
        note: inLeads > 0 ? `leads ${q(inLeads, "Ω")}, corrected` : "clip on at the module",
      },
      {
        ammeter: "output current",
        voltmeter: "output voltage",
        clips: outLeads > 0 ? "right" : "left",
        note: outLeads > 0 ? `leads ${q(outLeads, "Ω")}, corrected` : "clip on at the module",
      },
    ],
    notes: [
      "Leave IN (the charging input) unconnected.",
      "Don't join B− and OUT−: a protection switch may be between them, and joined meters or an earthed scope bypass it.",
    ],
  };
}
