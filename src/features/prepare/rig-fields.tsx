"use client";

import { useState } from "react";
import { parseQuantity } from "@/core/quantities";
import { readWith, type Role } from "@/core/procedures/roles";
import type { RigRecord } from "@/core/files/records";
import { AccuraciesStated, AccuracyTable, type RangeChoice } from "@/ui/accuracy-table";
import { NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";

const METERS: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent", "partTemperature"];
const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");

/** A drawer of resistors as text: `10R 5W, 4R7 10W ×2`. Returns the pieces or the reason. */
export function parseDrawer(text: string): { pieces: RigRecord["drawer"] } | { error: string } {
  const pieces: { ohms: number; watts: number }[] = [];
  for (const part of text.split(/[,;\n]+/).map((t) => t.trim()).filter(Boolean)) {
    const m = /^(\S+)\s+(\S+?)\s*(?:[x×*]\s*(\d+))?$/.exec(part);
    if (!m) return { error: `“${part}”: write a resistor as 10R 5W, several as 10R 5W ×3.` };
    const ohms = parseQuantity(m[1] ?? "", "Ω");
    const watts = parseQuantity(m[2] ?? "", "W");
    if (!ohms.ok) return { error: `“${part}”: ${ohms.error}` };
    if (!watts.ok) return { error: `“${part}”: ${watts.error}` };
    if (!(ohms.value.value > 0) || !(watts.value.value > 0)) return { error: `“${part}”: enter resistance and rating above zero.` };
    const count = Math.min(20, Number(m[3] ?? "1"));
    for (let k = 0; k < count; k++) pieces.push({ ohms: ohms.value.value, watts: watts.value.value });
  }
  return pieces.length > 80 ? { error: "At most 80 resistors." } : { pieces };
}

/** Meter accuracies, leads and load of the bench; kept for the next run and pinned to this one. */
export function RigFields({ rig, choices, onRig }: { rig: RigRecord; choices: readonly RangeChoice[]; onRig(r: RigRecord): void }) {
  const [drawerText, setDrawerText] = useState(() => rig.drawer.map((r) => `${r.ohms}R ${r.watts}W`).join(", "));
  const drawer = parseDrawer(drawerText);
  return (
    <>
      <details className="mb-3">
        <summary className="font-medium">
          Accuracy of the meters and leads <AccuraciesStated roles={METERS} instruments={rig.instruments} />
        </summary>
        <div className="mt-2 overflow-x-auto">
          <AccuracyTable roles={METERS} instruments={rig.instruments} {...(rig.meters ? { meters: rig.meters } : {})} choices={choices} onAccuracy={(role, a, meter) => onRig(readWith(rig, role, a, meter))} />
        </div>
        <div className="flex flex-wrap gap-x-5">
          <NumberField label="Battery leads, both wires" quantity="Ω" value={rig.inputLeadResistance} refuse={notNegative} onValue={(v) => v !== null && onRig({ ...rig, inputLeadResistance: v })} />
          <NumberField label="Load leads, both wires" quantity="Ω" value={rig.outputLeadResistance} refuse={notNegative} onValue={(v) => v !== null && onRig({ ...rig, outputLeadResistance: v })} />
        </div>
        <p className="text-sm text-pencil">Zero means that the voltage is measured at the module&apos;s own terminals (four-wire).</p>
      </details>
      <fieldset className="mb-2">
        <legend className="mb-1 text-sm text-pencil">Load</legend>
        <label className="mr-6 inline-flex items-center gap-2">
          <input type="radio" name="load" checked={!rig.useDrawer} onChange={() => onRig({ ...rig, useDrawer: false })} className="size-4 accent-(--copper)" />
          An electronic load
        </label>
        <label className="inline-flex items-center gap-2">
          <input type="radio" name="load" checked={rig.useDrawer} onChange={() => onRig({ ...rig, useDrawer: true })} className="size-4 accent-(--copper)" />
          Power resistors from a drawer
        </label>
      </fieldset>
      {rig.useDrawer ? (
        <TextField
          label="Drawer: resistance and rating of each, such as 10R 5W, 4R7 10W ×2"
          text={drawerText}
          wide
          error={"error" in drawer ? drawer.error : drawer.pieces.length === 0 ? "Enter at least one resistor." : null}
          echo={"pieces" in drawer && drawer.pieces.length ? `${drawer.pieces.length} resistors` : undefined}
          onText={(t) => {
            setDrawerText(t);
            const d = parseDrawer(t);
            if ("pieces" in d) onRig({ ...rig, drawer: d.pieces });
          }}
        />
      ) : null}
    </>
  );
}
