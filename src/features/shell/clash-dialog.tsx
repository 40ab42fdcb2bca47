"use client";

import { fieldWords, nameOf, valueText } from "@/core/files/differences";
import type { StoredRecord } from "@/core/files/records";
import type { Clashing } from "@/session/notify";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";

/** Shows both values of each field that was changed here and elsewhere at a time, and asks which is to stay. */
export function ClashDialog({ clash, onAnswer }: { readonly clash: Clashing; onAnswer(insist: boolean): void }) {
  return (
    <Dialog wide title="Changed elsewhere meanwhile" about="Nothing of this edit is saved yet." onClose={() => onAnswer(false)}>
      <div className="mb-4 overflow-x-auto">
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="py-1 pr-4 font-medium">Field</th>
              <th className="py-1 pr-4 font-medium">Yours</th>
              <th className="py-1 font-medium">Saved elsewhere</th>
            </tr>
          </thead>
          <tbody>
            {clash.clashes.map((c) => (
              <tr key={`${(c.record as StoredRecord).id} ${c.path.join(".")}`} className="border-b border-rule align-top">
                <td className="py-1 pr-4">
                  {nameOf(c.record as StoredRecord)}
                  {c.path.length ? <span className="block text-pencil">{fieldWords(c.path)}</span> : null}
                </td>
                <td className="py-1 pr-4">{c.path.length ? valueText(c.mine) : "changed"}</td>
                <td className="py-1">{c.path.length ? valueText(c.theirs) : "deleted"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap gap-3">
        <Button look="main" onClick={() => onAnswer(true)}>
          Save yours
        </Button>
        <Button onClick={() => onAnswer(false)}>Keep what was saved elsewhere</Button>
      </div>
    </Dialog>
  );
}
