"use client";

import { useState } from "react";
import { simulatedThing } from "@/core/simulator/offered";
import type { BenchProcedure } from "@/core/procedures";
import { AccuraciesStated, AccuracyTable, type RangeChoice } from "@/ui/accuracy-table";
import { NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { RadioGroup } from "@/ui/radio-group";
import { drawerText, parseDrawer } from "./drawer";
import { ResistorTable } from "./resistors";
import { SourceChoice } from "./source-choice";
import type { Preparation } from "./use-preparation";

const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");

const byHand = (p: BenchProcedure): string => (p.readings === "answers" ? "I try it myself and enter what I see" : "I type readings from my own meters");

/** Where the readings come from, and what is known of what reads them. */
export function BenchPart({ prep, choices }: { readonly prep: Preparation; readonly choices: readonly RangeChoice[] }) {
  const { p, plan, roles, full } = prep;
  return (
    <>
      <SourceChoice
        simulated={prep.simulated}
        offered={prep.offered}
        what={simulatedThing(p.id)}
        byHand={byHand(p)}
        onSource={(key) => {
          prep.setSimulated(key);
          // The field of the sampling is gone, and what stood in it.
          if (key === null) prep.mark("every", false);
        }}
      >
        {typeof plan.every === "number" ? (
          <NumberField
            label="One sample every"
            quantity="s"
            value={plan.every}
            refuse={(v) => (v >= 0.001 && v <= 600 ? null : "Between 1 ms and 10 min.")}
            onValue={(v) => {
              prep.mark("every", v === null);
              if (v !== null) prep.put({ every: v });
            }}
          />
        ) : null}
      </SourceChoice>
      <details className="mb-3">
        <summary className="font-medium">
          {p.resistors ? "Accuracy of the meters and leads" : "Accuracy of the meters"} <AccuraciesStated roles={roles} instruments={full.instruments} />
        </summary>
        <div className="mt-2 overflow-x-auto">
          <AccuracyTable roles={roles} instruments={full.instruments} {...(full.meters ? { meters: full.meters } : {})} choices={choices} onAccuracy={prep.readWith} />
        </div>
        {p.resistors ? <Leads prep={prep} /> : null}
      </details>
      {p.resistors ? <Load prep={prep} /> : null}
    </>
  );
}

function Leads({ prep: { rig, setRig } }: { readonly prep: Preparation }) {
  return (
    <>
      <div className="flex flex-wrap gap-x-5">
        <NumberField label="Battery leads, both wires" quantity="Ω" value={rig.inputLeadResistance} refuse={notNegative} onValue={(v) => v !== null && setRig((r) => ({ ...r, inputLeadResistance: v }))} />
        <NumberField label="Load leads, both wires" quantity="Ω" value={rig.outputLeadResistance} refuse={notNegative} onValue={(v) => v !== null && setRig((r) => ({ ...r, outputLeadResistance: v }))} />
      </div>
      <p className="text-sm text-pencil">Zero means that the voltage is measured at the module&apos;s own terminals (four-wire).</p>
    </>
  );
}

/** An electronic load, or the resistors that come nearest. */
function Load({ prep: { rig, setRig, resistors, setup } }: { readonly prep: Preparation }) {
  const [text, setText] = useState(() => drawerText(rig.drawer));
  const drawer = parseDrawer(text);
  return (
    <>
      <RadioGroup
        label="Load"
        value={rig.useDrawer ? "drawer" : "electronic"}
        onValue={(v) => setRig((r) => ({ ...r, useDrawer: v === "drawer" }))}
        choices={[
          { value: "electronic", label: "An electronic load" },
          { value: "drawer", label: "Power resistors from a drawer" },
        ]}
      />
      {rig.useDrawer ? (
        <TextField
          className="mt-2"
          label="Drawer: resistance and rating of each, such as 10R 5W, 4R7 10W ×2"
          text={text}
          wide
          error={"error" in drawer ? drawer.error : drawer.pieces.length === 0 ? "Enter at least one resistor." : null}
          echo={"pieces" in drawer && drawer.pieces.length ? `${drawer.pieces.length} resistors` : undefined}
          onText={(t) => {
            setText(t);
            const d = parseDrawer(t);
            if ("pieces" in d) setRig((r) => ({ ...r, drawer: d.pieces }));
          }}
        />
      ) : null}
      {rig.useDrawer && setup.conditions.nominalOutput ? <ResistorTable resistors={resistors} nominal={setup.conditions.nominalOutput} /> : null}
    </>
  );
}
