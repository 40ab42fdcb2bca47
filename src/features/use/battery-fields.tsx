import { formatQuantity } from "@/core/quantities";
import { capacityRefusal } from "@/ui/capacity";
import { NumberField } from "@/ui/number-field";
import { Select } from "@/ui/select";
import type { UsedBattery } from "./use-battery";

/** A measured number as it is offered to be changed. */
const shown = (x: number): number => Number(x.toPrecision(4));

/** Which cell feeds it, and what is taken of it; a number that was not measured says so. */
export function BatteryFields({ used }: { readonly used: UsedBattery }) {
  const { cells, id, typed, battery } = used;
  const { cell, from } = battery;
  return (
    <div className="no-print mt-3 flex flex-wrap gap-x-5">
      <Select label="Cell" place="above" value={id} onValue={used.choose} choices={[...cells.map((c) => ({ value: c.cell.id as string, label: c.cell.title })), { value: "", label: "any other cell" }]} />
      <NumberField label="In parallel" quantity="" value={typed.parallel} refuse={(v) => (Number.isInteger(v) && v >= 1 && v <= 100 ? null : "A whole number from 1 to 100.")} onValue={(v) => v !== null && used.type({ parallel: v })} className="w-28" />
      <NumberField key={`c${id}`} label={`Capacity (${from.capacity})`} quantity="Ah" value={shown(cell.capacity)} refuse={capacityRefusal} onValue={(v) => v !== null && used.type({ capacity: v })} className="w-32" />
      <NumberField key={`r${id}`} label={`Resistance (${from.resistance})`} quantity="Ω" value={shown(cell.resistance)} refuse={(v) => (v >= 0 ? null : "Enter zero or more.")} onValue={(v) => v !== null && used.type({ resistance: v })} className="w-32" />
      <NumberField key={`f${id}`} label="Not below" quantity="V" value={cell.floor} refuse={(v) => (v >= 2 && v < 4.2 ? null : "Between 2 and 4.2 V.")} onValue={(v) => v !== null && used.type({ floor: v })} className="w-28" />
      <NumberField key={`h${id}`} label="Charged to" quantity="1" value={cell.window.high} refuse={(v) => (v > cell.window.low && v <= 1 ? null : `Above ${formatQuantity(cell.window.low, "1")}, at most 100 %.`)} onValue={(v) => v !== null && used.type({ socHigh: v })} className="w-28" />
      <NumberField key={`l${id}`} label="Used down to" quantity="1" value={cell.window.low} refuse={(v) => (v >= 0 && v < cell.window.high ? null : `From 0 % to below ${formatQuantity(cell.window.high, "1")}.`)} onValue={(v) => v !== null && used.type({ socLow: v })} className="w-28" />
    </div>
  );
}
