"use client";

import { useEffect, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import type { RunSetup } from "@/core/procedures";
import type { LoadChoice, SweepPlan } from "@/core/procedures/load-sweep";
import type { RigRecord } from "@/core/files/records";
import { computing } from "@/workers/client";

export type Resistors =
  | { readonly state: "off" }
  | { readonly state: "choosing" }
  | { readonly state: "ready"; readonly choices: readonly LoadChoice[] }
  | { readonly state: "failed"; readonly message: string };

/** Chooses resistors for the plan's loads in a worker, anew whenever loads, output or drawer change. */
export function useResistors(setup: RunSetup<SweepPlan> | null, rig: RigRecord): Resistors {
  const targets = (setup?.plan?.loads ?? []).filter((a) => a > 0);
  const volts = setup?.conditions.nominalOutput ?? 0;
  const wanted = setup !== null && rig.useDrawer && rig.drawer.length > 0 && volts > 0;
  const key = wanted ? JSON.stringify([targets, volts, rig.drawer]) : "";
  const [found, setFound] = useState<{ key: string; result: Resistors }>({ key: "", result: { state: "off" } });
  useEffect(() => {
    if (!key) return;
    let gone = false;
    const [t, v, d] = JSON.parse(key) as [number[], number, { ohms: number; watts: number }[]];
    computing()
      .ask("resistors", { targets: t, volts: v, drawer: d })
      .then((choices) => !gone && setFound({ key, result: { state: "ready", choices } }))
      .catch((e: Error) => !gone && setFound({ key, result: { state: "failed", message: e.message } }));
    return () => {
      gone = true;
    };
  }, [key]);
  if (!wanted) return setup && rig.useDrawer ? { state: "choosing" } : { state: "off" };
  return found.key === key ? found.result : { state: "choosing" };
}

/** Which resistors come nearest to each load, and whether each stands the heat. */
export function ResistorTable({ resistors, nominal }: { resistors: Resistors; nominal: number }) {
  if (resistors.state === "failed") return <p className="text-misses">{resistors.message}</p>;
  if (resistors.state !== "ready") return <p className="text-pencil">Enter the drawer to have the nearest resistors chosen.</p>;
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-120 text-left text-sm">
        <thead className="text-pencil">
          <tr className="border-b border-pencil/60">
            <th className="py-1 pr-4 text-right font-medium">Wanted</th>
            <th className="py-1 pr-4 font-medium">Take</th>
            <th className="py-1 pr-4 text-right font-medium">Gives at {formatQuantity(nominal, "V")}</th>
            <th className="py-1 font-medium">Heat</th>
          </tr>
        </thead>
        <tbody className="figures">
          {resistors.choices.map((c) => (
            <tr key={c.target} className="border-b border-rule">
              <td className="py-1 pr-4 text-right">{formatQuantity(c.target, "A")}</td>
              <td className="py-1 pr-4">{c.text}</td>
              <td className="py-1 pr-4 text-right">{formatQuantity(c.amps, "A", { digits: 3 })}</td>
              <td className={c.cool ? "py-1" : "py-1 font-semibold text-misses"}>
                {Math.round(c.strain * 100)} % of rating{c.cool ? "" : c.strain > 1 ? ": burns out" : ": too hot, short pulses only"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
