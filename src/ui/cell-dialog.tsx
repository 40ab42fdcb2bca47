"use client";

import { useState } from "react";
import { CHEMISTRIES, CHEMISTRY_LIMITS, type Chemistry } from "@/core/cells";
import type { CellRecord } from "@/core/files/records";
import { SCHOOLS, type HouseRules, type School } from "@/core/procedures";
import { Button } from "./button";
import { Checkbox } from "./checkbox";
import { Dialog } from "./dialog";
import { capacityRefusal } from "./capacity";
import { Form } from "./form";
import { NumberField } from "./number-field";
import { TextField } from "./quantity-field";
import { Select } from "./select";

/** What is known of a cell. */
export type CellFacts = Pick<CellRecord, "title" | "chemistry" | "series" | "capacity" | "chargeRateLimit" | "chargeRate" | "fullVoltage" | "emptyVoltage" | "ownProtection" | "note">;

interface CellDialogProps {
  readonly cell: CellRecord | null;
  readonly rules: HouseRules;
  onClose(): void;
  /** Whether it could be kept. */
  onKeep(facts: CellFacts): Promise<boolean>;
  /** Where several that are alike may be added at once. */
  onKeepMany?(facts: CellFacts, count: number): Promise<boolean>;
}

/** Cells that one form adds at most. */
const MOST_ALIKE = 100;

const OWN = { chargeRate: "chargeRate", chargeFull: "fullVoltage", chargeEmpty: "emptyVoltage" } as const;
const TITLES: Readonly<Record<School["key"], string>> = { chargeRate: "Charge current, in C", chargeFull: "Full at", chargeEmpty: "Empty at" };

/** A cell, or several that are alike: what it is, what its maker allows, and where it departs from the house rules. */
export function CellDialog({ cell, rules, onClose, onKeep, onKeepMany }: CellDialogProps) {
  const [title, setTitle] = useState(cell?.title ?? "");
  const [chemistry, setChemistry] = useState<Chemistry>(cell?.chemistry ?? "lithium-ion");
  const [capacity, setCapacity] = useState<number | null>(cell?.capacity ?? null);
  const [limit, setLimit] = useState<number | null>(cell?.chargeRateLimit ?? 1);
  const [own, setOwn] = useState<Partial<Record<(typeof OWN)[School["key"]], number>>>({ ...(cell?.chargeRate ? { chargeRate: cell.chargeRate } : {}), ...(cell?.fullVoltage ? { fullVoltage: cell.fullVoltage } : {}), ...(cell?.emptyVoltage ? { emptyVoltage: cell.emptyVoltage } : {}) });
  const [series, setSeries] = useState<number | null>(cell?.series ?? 1);
  const [count, setCount] = useState<number | null>(1);
  const [note, setNote] = useState(cell?.note ?? "");
  const [protection, setProtection] = useState(cell?.ownProtection ?? false);
  const [tried, setTried] = useState(false);
  const keep = () => {
    setTried(true);
    if (!title.trim() || capacity === null || limit === null || series === null || count === null) return;
    const facts: CellFacts = { title: title.trim(), chemistry, ...(series > 1 ? { series } : {}), capacity, chargeRateLimit: limit, ...own, ownProtection: protection, note: note.trim() };
    void (count > 1 && onKeepMany ? onKeepMany(facts, count) : onKeep(facts)).then((good) => good && onClose());
  };
  const lithium = chemistry === "lithium-ion";
  return (
    <Dialog title={cell ? `Edit ${cell.title}` : "Add cell"} about="Rated values from its data sheet. Put the same name on its label." onClose={onClose}>
      <Form
        onSubmit={() => {
          keep();
        }}
      >
        <div className="flex flex-wrap gap-x-5">
          <TextField label="Name on the label" text={title} onText={setTitle} autoFocus maxLength={80} error={tried && !title.trim() ? "Enter a name." : null} />
          {onKeepMany ? <NumberField label="Number of cells" quantity="" value={count} refuse={(v) => (Number.isInteger(v) && v >= 1 && v <= MOST_ALIKE ? null : `A whole number from 1 to ${MOST_ALIKE}.`)} onValue={setCount} /> : null}
          <Select<Chemistry> label="Chemistry" place="above" value={chemistry} onValue={setChemistry} choices={CHEMISTRIES.map((value) => ({ value, label: CHEMISTRY_LIMITS[value].label }))} />
          <NumberField label="Cells in series (a pack)" quantity="" value={series} refuse={(v) => (Number.isInteger(v) && v >= 1 && v <= 30 ? null : "A whole number from 1 to 30.")} onValue={setSeries} />
          <NumberField label="Rated capacity" quantity="Ah" value={capacity} refuse={capacityRefusal} missing={tried && capacity === null ? "Enter a capacity." : null} onValue={setCapacity} />
          <NumberField label="Highest charge current, in C" quantity="" value={limit} refuse={(v) => (v > 0 && v <= 5 ? null : "Between 0 and 5.")} onValue={setLimit} />
        </div>
        <Checkbox className="my-2" checked={protection} onChecked={setProtection}>
          It has its own protection board
        </Checkbox>
        <TextField label="Note" text={note} onText={setNote} wide />
        {lithium ? (
          <details className="mb-3" open={Object.keys(own).length > 0}>
            <summary>Own limits for this cell</summary>
            {(["chargeRate", "chargeFull", "chargeEmpty"] as const).map((key) => (
              <div key={key} className="mt-2">
                <Select
                  label={TITLES[key]}
                  place="above"
                  wide
                  value={String(own[OWN[key]] ?? "")}
                  onValue={(v) => {
                    const { [OWN[key]]: _was, ...rest } = own;
                    void _was;
                    setOwn(v === "" ? rest : { ...rest, [OWN[key]]: Number(v) });
                  }}
                  choices={[{ value: "", label: `house rule: ${Number(rules[key].toPrecision(3))} ${key === "chargeRate" ? "C" : "V"}` }, ...SCHOOLS.filter((s) => s.key === key).map((s) => ({ value: String(s.value), label: `${Number(s.value.toPrecision(2))} ${key === "chargeRate" ? "C" : "V"}, ${s.label}: ${s.why}` }))]}
                />
              </div>
            ))}
          </details>
        ) : null}
        <Button look="main" type="submit">
          {(count ?? 1) > 1 ? `Save ${count} cells` : "Save cell"}
        </Button>
      </Form>
    </Dialog>
  );
}
