"use client";

import { sameValue } from "@/core/files/three-way";
import { useState, useEffect } from "react";
import type { InstrumentRecord, RigRecord } from "@/core/files/records";
import { ordinaryAccuracy } from "@/core/instruments";
import { readWith, roleLabel, roleUnit, type Role } from "@/core/procedures/roles";
import { formatQuantity } from "@/core/quantities";
import { attempt, notify } from "@/session/notify";
import { change, edit, leadsEffect } from "@/storage";
import { AccuracyTable, rangeChoices } from "@/ui/accuracy-table";
import { Button } from "@/ui/button";
import { NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { Select } from "@/ui/select";
import { EditQuestion } from "./edit-question";

const ROLES: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent", "cellVoltage", "cellCurrent", "inputVoltage", "inputCurrent", "partTemperature", "ambientTemperature"];
/** Those that are shown whether or not anything is stated of them. */
const USUAL: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent", "partTemperature"];
const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");

/** One rig: which range reads what, the leads, what the supply gives. */
export function RigForm({ rig: stored, rigs, inUse, instruments, onDirty }: { readonly rig: RigRecord; readonly rigs: readonly RigRecord[]; readonly inUse: boolean; readonly instruments: readonly InstrumentRecord[]; onDirty(dirty: boolean): void }) {
  const [rig, setRig] = useState(stored);
  const [asking, setAsking] = useState(false);
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const dirty = !sameValue(rig, stored) || bad.size > 0;
  useEffect(() => onDirty(dirty), [dirty, onDirty]);
  const supplies = instruments.filter((i) => i.device === "supply" && i.limit);
  const field = (key: "inputLeadResistance" | "outputLeadResistance" | "supplyCurrentLimit") => (v: number | null) => {
    setBad((b) => (v === null ? new Set([...b, key]) : new Set([...b].filter((x) => x !== key))));
    if (v !== null) setRig((r) => ({ ...r, [key]: v }));
  };
  // Those that the bench reads with a like meter are asked for only where one of their own is wanted.
  const shown = ROLES.filter((r) => USUAL.includes(r) || rig.instruments[r] || rig.meters?.[r]);
  const more = ROLES.filter((r) => !shown.includes(r));
  const keep = (use: boolean) =>
    void attempt(async () => {
      // Other leads may have been there all along: then the runs that were taken over them follow.
      if ((await leadsEffect(stored, rig, { kind: "mistake" })).runs.length) return setAsking(true);
      const others = use ? rigs.filter((r) => r.inUse && r.id !== rig.id).map((r) => edit(r, { ...r, inUse: false })) : [];
      await change(`save ${rig.title}`, [edit(stored, { ...rig, ...(use ? { inUse: true } : {}) }), ...others]);
      onDirty(false);
      await notify(use ? `${rig.title} is saved. New runs use it.` : `${rig.title} is saved.`);
    });
  const doubled = instruments.flatMap((i) => {
    const reads = Object.entries(rig.meters ?? {}).flatMap(([role, m]) => (m?.instrumentId === i.id ? [role] : []));
    return reads.length > 1 ? [{ i, reads }] : [];
  });
  return (
    <>
      {asking ? <EditQuestion title={rig.title} about="The resistance of its leads changes." effectOf={(meaning) => leadsEffect(stored, rig, meaning)} back="Back to the rig" onBack={() => setAsking(false)} onDone={() => setAsking(false)} /> : null}
      <TextField label="Name" maxLength={80} text={rig.title} onText={(title) => setRig((r) => ({ ...r, title }))} error={rig.title.trim() ? null : "Enter a name."} />
      <div className="mb-2 overflow-x-auto">
        <AccuracyTable roles={shown} instruments={rig.instruments} {...(rig.meters ? { meters: rig.meters } : {})} choices={rangeChoices(instruments)} onAccuracy={(role, a, meter) => setRig((r) => readWith(r, role, a, meter))} />
      </div>
      {more.length ? (
        <p className="mb-3">
          <Select<Role | ""> label="Add a reading" value="" onValue={(r) => r && setRig((all) => readWith(all, r, ordinaryAccuracy(1, roleUnit(r) as "V" | "A" | "°C")))} choices={[{ value: "", label: "choose …" }, ...more.map((value) => ({ value, label: roleLabel(value) }))]} />
        </p>
      ) : null}
      {doubled.map(({ i, reads }) => (
        <p key={i.id} className="mb-2 max-w-prose border-l-4 border-close pl-3 text-sm">
          {i.title} would read {reads.map((r) => roleLabel(r as Role).toLowerCase()).join(" and ")}: one meter reads one quantity at a time, so take these readings in turn.
        </p>
      ))}
      <div className="flex flex-wrap gap-x-5">
        <NumberField label="Battery leads, both wires" quantity="Ω" value={rig.inputLeadResistance} refuse={notNegative} onValue={field("inputLeadResistance")} />
        <NumberField label="Load leads, both wires" quantity="Ω" value={rig.outputLeadResistance} refuse={notNegative} onValue={field("outputLeadResistance")} />
        <NumberField label="Supply current limit" quantity="A" value={rig.supplyCurrentLimit} refuse={(v) => (v > 0 ? null : "Enter a value above zero.")} onValue={field("supplyCurrentLimit")} />
      </div>
      <p className="mb-3 max-w-prose text-sm text-pencil">
        Zero means that the voltage is measured at the module&apos;s own terminals (four-wire).
        {supplies.map((s) => ` ${s.title} gives ${formatQuantity(s.limit ?? 0, "A")}.`).join("")}
      </p>
      <div className="flex flex-wrap gap-3">
        <Button look="main" disabled={bad.size > 0 || !rig.title.trim()} onClick={() => keep(inUse)}>
          Save rig
        </Button>
        {inUse ? null : <Button onClick={() => keep(true)} disabled={bad.size > 0}>Save and use rig</Button>}
      </div>
    </>
  );
}
