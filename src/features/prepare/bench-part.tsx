"use client";

import type { Control } from "react-hook-form";
import { benchOf } from "@/core/bench";
import type { BenchProcedure } from "@/core/procedures";
import { AccuraciesStated, AccuracyTable, type RangeChoice } from "@/ui/accuracy-table";
import { FormNumber, FormParsed, FormRadioGroup } from "@/ui/form-fields";
import { outside } from "@/ui/form-numbers";
import { notNegative } from "@/ui/refusals";
import { resistorsText, parseResistors } from "./resistor-text";
import type { PlanForm } from "./plan-form";
import { ResistorTable } from "./resistors";
import { SourceChoice } from "./source-choice";
import type { Preparation } from "./use-preparation";

const byHand = (p: BenchProcedure): string =>
  p.readings === "answers" ? "I try it myself and enter what I see" : "I type readings from my own meters";

/** Where the readings come from, and what is known of what reads them. */
export function BenchPart({ prep, choices }: { readonly prep: Preparation; readonly choices: readonly RangeChoice[] }) {
  const { p, typed, roles, full, form } = prep;
  const { control, setValue } = form;
  const source = (key: string | null) => {
    setValue("simulated", key);
    // Its field goes with the bench; nonsense would come back with it.
    if (Number.isNaN(typed.plan.every)) setValue("plan.every", (full.plan as PlanForm["plan"]).every);
  };
  return (
    <>
      <SourceChoice
        simulated={typed.simulated}
        offered={prep.offered}
        what={benchOf(p.id)?.thing ?? "module"}
        byHand={byHand(p)}
        onSource={source}
      >
        {typeof typed.plan.every === "number" ? (
          <FormNumber
            control={control}
            name="plan.every"
            label="One sample every"
            quantity="s"
            refuse={sampling}
            missing="Enter a number."
          />
        ) : null}
      </SourceChoice>
      <details className="mb-3">
        <summary className="font-medium">
          {p.resistors ? "Accuracy of the meters and leads" : "Accuracy of the meters"}{" "}
          <AccuraciesStated roles={roles} instruments={full.instruments} />
        </summary>
        <div className="mt-2 overflow-x-auto">
          <AccuracyTable
            roles={roles}
            instruments={full.instruments}
            {...(full.meters ? { meters: full.meters } : {})}
            choices={choices}
            onAccuracy={prep.readWith}
          />
        </div>
        {p.resistors ? <Leads control={control} /> : null}
      </details>
      {p.resistors ? <Load prep={prep} /> : null}
    </>
  );
}

const sampling = outside({ unit: "s", low: 0.001, high: 600 });

function Leads({ control }: { readonly control: Control<PlanForm> }) {
  return (
    <>
      <div className="flex flex-wrap gap-x-5">
        <FormNumber
          control={control}
          name="rig.inputLeadResistance"
          label="Battery leads, both wires"
          quantity="Ω"
          refuse={notNegative}
          missing="Enter a resistance, 0 with four wires."
        />
        <FormNumber
          control={control}
          name="rig.outputLeadResistance"
          label="Load leads, both wires"
          quantity="Ω"
          refuse={notNegative}
          missing="Enter a resistance, 0 with four wires."
        />
      </div>
      <p className="text-sm text-pencil">
        Zero means that the voltage is measured at the module&apos;s own terminals (four-wire).
      </p>
    </>
  );
}

/** Stored as the rig's `drawer`. */
type Resistors = PlanForm["rig"]["drawer"];

function readResistors(text: string): { readonly value: Resistors } | { readonly error: string } {
  const d = parseResistors(text);
  if ("error" in d) return d;
  return d.pieces.length ? { value: d.pieces } : { error: "Enter at least one resistor." };
}

/** An electronic load, or the resistors that come nearest. */
function Load({ prep: { form, typed, full, resistors } }: { readonly prep: Preparation }) {
  const { control } = form;
  const { useDrawer } = typed.rig;
  const nominal = full.conditions.nominalOutput;
  return (
    <>
      <FormRadioGroup
        control={control}
        name="rig.useDrawer"
        label="Load"
        choices={[
          { value: false, label: "An electronic load" },
          { value: true, label: "Power resistors from a drawer" },
        ]}
      />
      {useDrawer ? (
        <FormParsed<PlanForm, Resistors>
          className="mt-2"
          control={control}
          name="rig.drawer"
          label="Drawer: resistance and rating of each, such as 10R 5W, 4R7 10W ×2"
          wide
          textOf={resistorsText}
          read={readResistors}
          echoOf={(pieces) => `${pieces.length} resistors`}
        />
      ) : null}
      {useDrawer && nominal ? <ResistorTable resistors={resistors} nominal={nominal} /> : null}
    </>
  );
}
