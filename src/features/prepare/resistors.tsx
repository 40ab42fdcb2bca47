"use client";

import { useEffect, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import type { RunSetup } from "@/core/measurement";
import type { LoadChoice, SweepPlan } from "@/core/procedures/load-sweep";
import type { RigRecord } from "@/core/files/records";
import { computing } from "@/workers/client";
import { DataTable, type DataColumn } from "@/ui/data-table";

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
  if (resistors.state !== "ready")
    return <p className="text-pencil">Enter the drawer to have the nearest resistors chosen.</p>;
  return (
    <DataTable
      label="Resistors for the loads"
      rows={resistors.choices}
      columns={columnsAt(nominal)}
      id={(c) => String(c.target)}
      least={480}
    />
  );
}

const columnsAt = (nominal: number): DataColumn<LoadChoice>[] => [
  { id: "wanted", head: "Wanted", figures: true, by: (c) => c.target, content: (c) => formatQuantity(c.target, "A") },
  { id: "take", head: "Take", className: "figures", content: (c) => c.text },
  {
    id: "gives",
    head: `Gives at ${formatQuantity(nominal, "V")}`,
    figures: true,
    by: (c) => c.amps,
    content: (c) => formatQuantity(c.amps, "A", { digits: 3 }),
  },
  {
    id: "heat",
    head: "Heat",
    by: (c) => c.strain,
    className: (c) => (c.cool ? "figures" : "figures font-semibold text-misses"),
    content: (c) =>
      `${Math.round(c.strain * 100)} % of rating${c.cool ? "" : c.strain > 1 ? ": burns out" : ": too hot, short pulses only"}`,
  },
];
