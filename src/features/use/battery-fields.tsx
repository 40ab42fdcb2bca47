import { capacityRefusal } from "@/ui/capacity";
import { FormNumber } from "@/ui/form-fields";
import { outside } from "@/ui/form-numbers";
import { NotTaken } from "@/ui/not-taken";
import { notNegative } from "@/ui/refusals";
import { Select } from "@/ui/select";
import type { UsedBattery } from "./use-battery";

const share = outside({ unit: "1", low: 0, high: 1 });

/** Which cell feeds it, and what is taken of it; a number that was not measured says so. */
export function BatteryFields({ used }: { readonly used: UsedBattery }) {
  const { cells, id, control, battery } = used;
  const { from } = battery;
  const typed = { control, missing: "Enter a number." };
  return (
    <div className="no-print mt-3">
      <div className="flex flex-wrap gap-x-5">
        <Select
          label="Cell"
          place="above"
          value={id}
          onValue={used.choose}
          choices={[
            ...cells.map((c) => ({ value: c.cell.id as string, label: c.cell.title })),
            { value: "", label: "any other cell" },
          ]}
        />
        <FormNumber
          {...typed}
          name="parallel"
          label="In parallel"
          quantity=""
          refuse={(v) => (Number.isInteger(v) && v >= 1 && v <= 100 ? null : "A whole number from 1 to 100.")}
          className="w-28"
        />
        <FormNumber
          {...typed}
          name="capacity"
          label={`Capacity (${from.capacity})`}
          quantity="Ah"
          refuse={capacityRefusal}
          className="w-40"
        />
        <FormNumber
          {...typed}
          name="resistance"
          label={`Resistance (${from.resistance})`}
          quantity="Ω"
          refuse={notNegative}
          className="w-40"
        />
        <FormNumber
          {...typed}
          name="floor"
          label="Not below"
          quantity="V"
          refuse={(v) => (v >= 2 && v < 4.2 ? null : "From 2 V to below 4.2 V.")}
          className="w-28"
        />
        <FormNumber {...typed} name="socHigh" label="Charged to" quantity="1" refuse={share} className="w-28" />
        <FormNumber {...typed} name="socLow" label="Used down to" quantity="1" refuse={share} className="w-28" />
      </div>
      {used.whole ? null : used.ordered ? (
        <NotTaken />
      ) : (
        <p role="status" className="mb-2 text-misses">
          “Used down to” must be below “Charged to”. What is shown is worked out from the last valid values.
        </p>
      )}
    </div>
  );
}
