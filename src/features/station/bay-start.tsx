"use client";

import { useForm, useWatch } from "react-hook-form";
import { forecastBay } from "@/core/use";
import { formatRoughly } from "@/core/quantities";
import { attempt, notifyUndoable } from "@/browser/notify";
import { startCharge, type DrawerCell } from "@/notebook";
import { undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormNumber } from "@/ui/form-fields";
import { bayCell, checkBay, freeBay, type AtWork } from "./bay-rows";

interface Fields {
  bay: number | null;
  volts: number | null;
}

/** Puts a cell into a bay: Enter takes the next free bay, the voltage may be left out. What speaks against it is said before it starts. */
export function BayStart({ c, running, onDone }: { readonly c: DrawerCell; readonly running: AtWork; onDone(): void }) {
  const { control, handleSubmit } = useForm<Fields>({ defaultValues: { bay: freeBay(running.rows), volts: null } });
  const { bay, volts } = useWatch({ control }) as Fields;
  const read = volts ?? c.triage.last?.volts ?? null;
  const check = checkBay(running, c, bay ?? 0, read);
  const forecast = forecastBay(running.station.plan, bayCell(c, read, running.drawer));
  const start = handleSubmit((f) =>
    attempt(async () => {
      if (check.refused.length || !f.bay) return;
      const act = await startCharge({
        cell: c.cell,
        stationId: running.station.id,
        bay: f.bay,
        volts: f.volts,
        current: running.station.plan.chargeCurrent,
        expected: forecast.seconds,
      });
      onDone();
      await notifyUndoable(`${c.cell.title} charges in bay ${f.bay}.`, act && (() => undoAct(act)));
    }),
  );
  return (
    <Form onSubmit={start}>
      <div className="flex flex-wrap gap-x-4">
        <FormNumber
          control={control}
          name="bay"
          label="Bay"
          quantity=""
          autoFocus
          missing="Enter a bay."
          refuse={(v) => (Number.isInteger(v) ? null : "A whole number.")}
        />
        <FormNumber control={control} name="volts" label="Voltage before" quantity="V" />
      </div>
      {check.refused.length ? (
        <ul aria-label="Why it can't start" className="mb-3 max-w-prose text-misses">
          {check.refused.map((r) => (
            <li key={r}>
              <span aria-hidden>{"\u2715"} </span>
              {r}
            </li>
          ))}
        </ul>
      ) : (
        <p className="mb-3 text-sm">
          Done after about {formatRoughly(forecast.seconds)}. {check.cautions.join(" ")}
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        <Button look="main" type="submit" disabled={check.refused.length > 0}>
          Start charge
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </Form>
  );
}
