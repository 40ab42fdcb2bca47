"use client";

import { useEffect, useRef, useState } from "react";
import { useForm, type Control } from "react-hook-form";
import { cellNamed, readReadings } from "@/core/cells";
import { formatQuantity } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt, notify } from "@/browser/notify";
import { cellMeter, readCells, type DrawerCell } from "@/notebook";
import { Button } from "@/ui/button";
import { capacityRefusal } from "@/ui/capacity";
import { Checkbox } from "@/ui/checkbox";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { FormArea } from "@/ui/text-area";
import { SINCE_CHOICES, type Since, voltageRefusal } from "./read-cells";

interface Fields {
  code: string;
  volts: number | null;
  since: Since;
  capacity: number | null;
  resistance: number | null;
  share: number | null;
}

/** The share of its readings by which a tester of cells is taken to be off. */
const TESTER_SHARE = 0.02;
const EMPTY: Fields = { code: "", volts: null, since: "rest", capacity: null, resistance: null, share: TESTER_SHARE };

/** What of a form or a line goes into a reading. */
const tested = (
  r: { readonly capacity?: number | null; readonly resistance?: number | null },
  share: number | null,
) => ({
  ...(r.capacity ? { capacity: r.capacity } : {}),
  ...(r.resistance ? { resistance: r.resistance } : {}),
  ...(share === null ? {} : { testerShare: share }),
});

/** Code, voltage, Enter, next: cells read as they come to hand. Each reading is stored at once. */
export function ReadByCode({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const { notebook } = useSession();
  const form = useRef<HTMLDivElement>(null);
  const { control, handleSubmit, reset, getValues } = useForm<Fields>({ defaultValues: EMPTY });
  const [done, setDone] = useState<readonly string[]>([]);
  const [round, setRound] = useState(0);
  const [pasting, setPasting] = useState(false);
  const [byTester, setByTester] = useState(false);
  useEffect(() => {
    if (round) form.current?.querySelector("input")?.focus();
  }, [round]);
  const save = handleSubmit((f) =>
    attempt(async () => {
      const c = cellNamed(f.code, cells);
      if (!c) return;
      await readCells(
        [
          {
            cell: c.cell,
            volts: f.volts,
            charged: f.since === "charged" && f.volts !== null,
            used: f.since === "used",
            ...tested(f, f.share),
          },
        ],
        await cellMeter(notebook.id),
      );
      setDone((d) =>
        [
          [
            c.cell.title,
            f.volts === null ? "" : formatQuantity(f.volts, "V", { digits: 4 }),
            f.capacity ? formatQuantity(f.capacity, "Ah", { digits: 3 }) : "",
          ]
            .filter(Boolean)
            .join(" "),
          ...d,
        ].slice(0, 6),
      );
      reset({ ...EMPTY, since: getValues("since"), share: getValues("share") });
      setRound((n) => n + 1);
    }),
  );
  return (
    <div ref={form}>
      <Form className="flex flex-wrap items-end gap-x-4" onSubmit={save}>
        <FormText
          control={control}
          name="code"
          label="Code of the cell"
          placeholder="scan or type"
          missing="Enter a code."
          check={(t) => (cellNamed(t, cells) ? null : "No cell here has this code or name.")}
          onKeyDown={(e) => {
            // A scanner ends with Enter: on to the voltage.
            if (e.key !== "Enter" || !cellNamed(e.currentTarget.value, cells)) return;
            e.preventDefault();
            e.currentTarget.closest("form")?.querySelectorAll("input")[1]?.focus();
          }}
        />
        <FormNumber
          key={round}
          control={control}
          name="volts"
          label="Its voltage"
          quantity="V"
          {...(byTester ? {} : { missing: "Enter a voltage." })}
          refuse={(v) => {
            const c = cellNamed(getValues("code"), cells);
            return c ? voltageRefusal(v, c) : null;
          }}
        />
        {byTester ? <TesterFields control={control} round={round} /> : null}
        <div className="mb-5">
          <FormSelect control={control} name="since" label="Since the last reading" choices={SINCE_CHOICES} />
        </div>
        <Button type="submit" className="mb-5">
          Save this cell
        </Button>
        <Button look="bare" className="mb-5" onClick={() => setPasting(true)}>
          Paste readings
        </Button>
      </Form>
      <Checkbox className="mb-2" checked={byTester} onChecked={setByTester}>
        With capacity and resistance from a cell tester
      </Checkbox>
      {done.length ? (
        <p role="status" className="text-sm text-pencil">
          Saved: {done.join(", ")}
        </p>
      ) : null}
      {pasting ? <PasteReadings cells={cells} onClose={() => setPasting(false)} /> : null}
    </div>
  );
}

/** What a cell tester showed, empty anew for each cell, and how far it may be off. */
const TesterFields = ({ control, round }: { readonly control: Control<Fields>; readonly round: number }) => (
  <>
    <FormNumber
      key={`c${round}`}
      control={control}
      name="capacity"
      label="Capacity it showed"
      quantity="Ah"
      refuse={capacityRefusal}
    />
    <FormNumber
      key={`r${round}`}
      control={control}
      name="resistance"
      label="Resistance it showed"
      quantity="Ω"
      refuse={(v) => (v > 0 && v < 10 ? null : "Between 0 and 10 Ω.")}
    />
    <FormNumber
      control={control}
      name="share"
      label="The tester may be off by"
      quantity="1"
      missing="Enter a share."
      refuse={(v) => (v >= 0 && v < 0.5 ? null : "Between 0 and 50 %.")}
    />
  </>
);

/** What of a list can't be taken; null where all can. */
function refused(text: string, cells: readonly DrawerCell[]): string | null {
  const read = readReadings(text);
  if (!read.ok) return read.error;
  for (const r of read.value) {
    const c = cellNamed(r.cell, cells);
    if (!c) return `Line ${r.line}: no cell here has the code or name “${r.cell}”. Add it first, or correct the line.`;
    const why = r.volts === undefined ? null : voltageRefusal(r.volts, c);
    if (why) return `Line ${r.line}: ${why}`;
  }
  return null;
}

/** The voltages of a rest check, from a list or a file's rows. */
function PasteReadings({ cells, onClose }: { readonly cells: readonly DrawerCell[]; onClose(): void }) {
  const { notebook } = useSession();
  const { control, handleSubmit } = useForm<{ list: string; share: number | null }>({
    defaultValues: { list: "", share: TESTER_SHARE },
  });
  const save = handleSubmit(async ({ list, share }) => {
    const read = readReadings(list);
    if (!read.ok) return;
    const looks = read.value.flatMap((r) => {
      const c = cellNamed(r.cell, cells);
      return c
        ? [{ cell: c.cell, volts: r.volts ?? null, ...tested(r, share), ...(r.takenAt ? { takenAt: r.takenAt } : {}) }]
        : [];
    });
    if (!(await attempt(async () => readCells(looks, await cellMeter(notebook.id))))) return;
    onClose();
    await notify(looks.length === 1 ? "One reading saved." : `${looks.length} readings saved.`);
  });
  return (
    <Dialog
      title="Paste readings"
      about="A line a cell: code or name, then voltage, capacity, resistance, and the date if it was not today."
      onClose={onClose}
      wide
    >
      <Form onSubmit={save}>
        <FormArea
          control={control}
          name="list"
          label="Readings"
          autoFocus
          placeholder={"cell; voltage; date\n7K3QF; 4.187 V; 2026-11-20\nTorch 2; 1180 mAh; 62 mΩ"}
          check={(t) => refused(t, cells)}
        />
        <FormNumber
          control={control}
          name="share"
          label="Capacity and resistance may be off by"
          quantity="1"
          missing="Enter a share."
          refuse={(v) => (v >= 0 && v < 0.5 ? null : "Between 0 and 50 %.")}
        />
        <Button look="main" type="submit">
          Save readings
        </Button>
      </Form>
    </Dialog>
  );
}
