"use client";

import { fieldWords, nameOf, valueText } from "@/core/files/differences";
import type { StoredRecord } from "@/core/files/records";
import type { Clashing } from "@/browser/notify";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TwoVersions, type TwoVersionsProps } from "@/ui/two-versions";

type Row = TwoVersionsProps["rows"][number];
function rowOf({ record, path, mine, theirs }: Clashing["clashes"][number]): Row {
  const r = record as StoredRecord;
  const whole = path.length === 0;
  return {
    key: `${r.id} ${path.join(".")}`,
    of: nameOf(r),
    field: fieldWords(path),
    first: whole ? "changed" : valueText(mine),
    second: whole ? "deleted" : valueText(theirs),
  };
}

/** Shows both values of each field that was changed here and elsewhere at a time, and asks which is to stay. */
export function ClashDialog({ clash, onAnswer }: { readonly clash: Clashing; onAnswer(insist: boolean): void }) {
  return (
    <Dialog wide title="Changed elsewhere" about="Nothing of this edit is saved yet." onClose={() => onAnswer(false)}>
      <TwoVersions heads={["Yours", "Saved elsewhere"]} rows={clash.clashes.map(rowOf)} />
      <div className="flex flex-wrap gap-3">
        <Button look="main" onClick={() => onAnswer(true)}>
          Save yours
        </Button>
        <Button onClick={() => onAnswer(false)}>Keep what was saved elsewhere</Button>
      </div>
    </Dialog>
  );
}
