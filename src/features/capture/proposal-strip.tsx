"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import { formatQuantity, numeric } from "@/core/quantities";
import { roleLabel, roleUnit, type PointSettings, type Role } from "@/core/measurement";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { FormCheckbox, FormNumber } from "@/ui/form-fields";
import { notNegative, positive } from "@/ui/refusals";
import { useTyped } from "@/ui/use-typed";
import type { Capture } from "./capture";

function settingText(s: PointSettings): string {
  const load = s.load;
  const parts = [
    s.supplyVoltage !== undefined ? `supply ${formatQuantity(s.supplyVoltage, "V")}` : "",
    s.supplyCurrentLimit !== undefined ? `limit ${formatQuantity(s.supplyCurrentLimit, "A")}` : "",
    load
      ? load.value === 0
        ? "no load"
        : `load ${formatQuantity(load.value, load.mode === "current" ? "A" : load.mode === "power" ? "W" : "Ω")}`
      : "",
    s.fromOff ? "from off" : "",
    s.reversed ? `leads swapped, through ${formatQuantity(s.reversed.ohms, "Ω")}` : "",
  ];
  return parts.filter(Boolean).join(", ");
}

export interface ProposalStripProps {
  readonly capture: Capture;
  readonly writing: boolean;
  onFinish(): void;
  onSkip(): void;
}

/** The one obvious next step: what to set, what to expect, the caution for it. */
export function ProposalStrip({ capture, writing, onFinish, onSkip }: ProposalStripProps) {
  const { proposal, settings, sets } = capture;
  const [other, setOther] = useState(false);
  const set = settingText(settings);
  const expected = Object.entries(proposal.expect).flatMap(([role, v]) =>
    v === undefined
      ? []
      : `${roleLabel(role as Role).toLowerCase()} ${roleUnit(role as Role) === "" ? v : formatQuantity(v, roleUnit(role as Role), { digits: 3 })}`,
  );
  return (
    <section aria-label="Next step" className="border-b border-rule border-l-4 border-l-margin px-4 py-2.5">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <p className="min-w-0 flex-1 basis-96 text-xl font-semibold leading-snug" data-testid="proposal">
          {proposal.text}
        </p>
        {writing && proposal.kind === "done" ? (
          <Button look="main" keyName="F" onClick={onFinish}>
            Finish and open result
          </Button>
        ) : null}
        {writing && proposal.kind === "restart" ? (
          <div className="flex flex-wrap gap-2">
            {sets ? (
              <Button look="main" keyName="W" onClick={capture.watch} disabled={capture.busy}>
                Watch restart
              </Button>
            ) : null}
            <Button keyName="1" onClick={() => capture.recovered("automatic")}>
              On its own
            </Button>
            <Button keyName="2" onClick={() => capture.recovered("load-removal")}>
              When unloaded
            </Button>
            <Button keyName="3" onClick={() => capture.recovered("power-cycle")}>
              Power cycle
            </Button>
            <Button keyName="4" onClick={() => capture.recovered("none")}>
              Never
            </Button>
          </div>
        ) : null}
      </div>
      {proposal.kind !== "done" ? (
        <p className="figures mt-1 text-sm text-pencil">
          {set ? (
            <>
              {sets ? "Set: " : "Set by hand: "}
              <span className="text-ink">{set}</span>
            </>
          ) : null}
          {expected.length ? `${set ? " · expect" : "Expect"} ${expected.join(", ")}` : ""}
        </p>
      ) : null}
      {proposal.caution ? <p className="mt-1 border-l-4 border-close pl-2 font-medium">{proposal.caution}</p> : null}
      {writing && capture.unconfirmed && proposal.confirm ? (
        <Confirmation key={capture.settings.reversed?.ohms ?? ""} text={proposal.confirm} onConfirm={capture.confirm} />
      ) : null}
      {writing && proposal.kind === "point" ? (
        <div className="mt-1 flex flex-wrap items-end gap-4 text-sm">
          {set ? (
            <Button look="bare" onClick={() => setOther((o) => !o)} aria-expanded={other}>
              Change settings
            </Button>
          ) : null}
          {proposal.column ? (
            <Button look="bare" keyName="C" onClick={onSkip}>
              Finish this {proposal.columnName ?? "battery voltage"}
            </Button>
          ) : null}
        </div>
      ) : null}
      {other && writing && proposal.kind === "point" ? (
        <OtherSettings key={JSON.stringify(proposal.settings)} capture={capture} />
      ) : null}
    </section>
  );
}

/** Says what is about to be done and waits: ticked, then said. */
function Confirmation({ text, onConfirm }: { readonly text: string; onConfirm(): void }) {
  const [sure, setSure] = useState(false);
  return (
    <div className="mt-2 border-2 border-misses p-3" role="group" aria-label="Confirm">
      <Checkbox checked={sure} onChecked={setSure}>
        <strong className="text-misses">Danger. </strong>
        {text}
      </Checkbox>
      <Button look="danger" className="mt-2" disabled={!sure} onClick={onConfirm}>
        Do it now
      </Button>
    </div>
  );
}

interface OwnSettings {
  supplyVoltage: number | null;
  supplyCurrentLimit: number | null;
  /** A; left as it is where the load is a resistor. */
  load: number | null;
  fromOff: boolean;
}

/** The settings of a point changed by hand: what is empty or makes no sense stays as it was proposed. */
function OtherSettings({ capture }: { readonly capture: Capture }) {
  const { settings, setOverride } = capture;
  const resistor = settings.load?.mode === "resistance";
  const form = useForm<OwnSettings>({
    defaultValues: {
      supplyVoltage: settings.supplyVoltage ?? null,
      supplyCurrentLimit: settings.supplyCurrentLimit ?? null,
      load: settings.load?.value ?? 0,
      fromOff: settings.fromOff === true,
    },
  });
  useTyped(form, (name, values) => {
    const value = values[name as keyof OwnSettings];
    if (value === null || Number.isNaN(value)) return;
    setOverride({
      ...settings,
      ...(name === "load" ? { load: { mode: "current", value: numeric(value) } } : { [name]: value }),
    } as PointSettings);
  });
  const { control } = form;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-4">
      <FormNumber
        control={control}
        name="supplyVoltage"
        label="Supply voltage"
        quantity="V"
        refuse={positive}
        missing="Enter a voltage."
      />
      <FormNumber
        control={control}
        name="supplyCurrentLimit"
        label="Supply current limit"
        quantity="A"
        refuse={positive}
        missing="Enter a current."
      />
      {resistor ? null : (
        <FormNumber
          control={control}
          name="load"
          label="Load current"
          quantity="A"
          refuse={notNegative}
          missing="Enter a current, 0 without a load."
        />
      )}
      <FormCheckbox control={control} name="fromOff" className="mb-6">
        Start into this load from off
      </FormCheckbox>
    </div>
  );
}
