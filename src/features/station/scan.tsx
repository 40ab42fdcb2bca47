"use client";

import { useEffect, useRef, useState } from "react";
import { useForm } from "react-hook-form";
import { cellNamed } from "@/core/cells";
import { formatQuantity } from "@/core/quantities";
import type { CellChargeRecord } from "@/core/files/records";
import { attempt, notifyUndoable } from "@/browser/notify";
import { endCharge, type DrawerCell } from "@/notebook";
import { undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { ChargeEnd } from "@/ui/charge-end";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { BayStart } from "./bay-start";
import type { AtWork } from "./bay-rows";

/** A cell by its code: one that charges here is taken out, any other is put into a bay. The focus comes back here after each. */
export function Scan({
  running,
  chosen,
  onChosen,
}: {
  readonly running: AtWork;
  readonly chosen: string | null;
  onChosen(cellId: string | null): void;
}) {
  const { cells } = running.drawer;
  const field = useRef<HTMLDivElement>(null);
  const { control, handleSubmit, reset } = useForm({ defaultValues: { code: "" } });
  const c = cells.find((x) => x.cell.id === chosen) ?? null;
  const [round, setRound] = useState(0);
  useEffect(() => {
    if (!round) return;
    const focus = () => field.current?.querySelector("input")?.focus();
    // At once, for a scanner may come right behind; and again, unless somebody types already, for a dialog that goes away gives the focus back where it was.
    focus();
    const id = setTimeout(() => document.activeElement instanceof HTMLInputElement || focus(), 30);
    return () => clearTimeout(id);
  }, [round]);
  const again = () => {
    onChosen(null);
    reset();
    setRound((n) => n + 1);
  };
  const end = (ending: DrawerCell, charge: CellChargeRecord, volts: number | null, stopped?: string) =>
    attempt(async () => {
      const act = await endCharge(charge, ending.cell, volts, stopped);
      again();
      await notifyUndoable(
        stopped
          ? `${ending.cell.title} was taken out: ${stopped}.`
          : `${ending.cell.title} is full. Label it and put it into the drawer.`,
        act && (() => undoAct(act)),
      );
    });
  const here = c?.charge?.stationId === running.station.id ? c.charge : null;
  return (
    <div className="grid gap-x-8 gap-y-2 min-[760px]:grid-cols-[18rem_minmax(0,1fr)]">
      <div ref={field}>
        <Form
          className="flex flex-wrap items-end gap-x-3"
          onSubmit={handleSubmit((f) => {
            const cell = cellNamed(f.code, cells);
            if (cell) onChosen(cell.cell.id);
          })}
        >
          <FormText
            control={control}
            name="code"
            label="Code of a cell"
            placeholder="scan or type"
            autoFocus
            missing="Enter a code."
            check={(t) => (cellNamed(t, cells) ? null : "No cell in this notebook has this code or name.")}
          />
          <Button type="submit" className="mb-5">
            Find cell
          </Button>
        </Form>
      </div>
      {c ? (
        <div data-testid="scanned">
          <p className="text-xl font-semibold">
            {c.cell.title} <span className="figures text-base font-normal text-pencil">{c.code}</span>
          </p>
          <p className="mb-2 text-sm text-pencil">
            {formatQuantity(c.cell.capacity, "Ah")}
            {c.triage.last?.volts ? `, last read ${formatQuantity(c.triage.last.volts, "V", { digits: 4 })}` : ""}
            {here ? `, in bay ${here.bay}` : ""}
          </p>
          {here ? (
            <ChargeEnd
              key={c.cell.id}
              title={c.cell.title}
              onCancel={again}
              onEnd={(volts, stopped) => end(c, here, volts, stopped)}
            />
          ) : (
            <BayStart key={c.cell.id} c={c} running={running} onDone={again} />
          )}
        </div>
      ) : (
        <p className="self-center text-pencil max-[760px]:hidden">
          Scan a cell to put it into a bay. Scan it again when it is done.
        </p>
      )}
    </div>
  );
}
