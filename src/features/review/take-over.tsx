"use client";

import { useState } from "react";
import { formatQuantity } from "@/core/quantities";
import { roleLabel, roleUnit, type BenchCorrection } from "@/core/measurement";
import type { RigRecord } from "@/core/files/records";
import { attempt } from "@/browser/notify";
import { rigOf } from "@/notebook";
import { change, edit, now, record, useLive, todaysDate } from "@/storage";
import { Button } from "@/ui/button";

const LEADS = { inputLeadResistance: "battery leads", outputLeadResistance: "load leads" } as const;

/** The bench with a meter check's correction in it. */
function corrected(rig: RigRecord, c: BenchCorrection, at: string): RigRecord {
  return {
    ...rig,
    updatedAt: at,
    ...(c.leads && c.ohms !== undefined ? { [c.leads]: Number(c.ohms.toPrecision(4)) } : {}),
    ...(c.offset !== undefined ? { offsets: { ...rig.offsets, [c.role]: Number(c.offset.toPrecision(3)) } } : {}),
  };
}

/** The instrument that was checked, with the day and what came of it; nothing where the rig names none. */
async function checkedMeter(rig: RigRecord, c: BenchCorrection): Promise<ReturnType<typeof edit>[]> {
  const id = rig.meters?.[c.role]?.instrumentId;
  const meter = id ? await record("instrument", id) : null;
  return meter
    ? [
        edit(meter, {
          ...meter,
          checked: {
            date: todaysDate(),
            note:
              c.offset === undefined
                ? "meter check used"
                : `meter check used, offset ${formatQuantity(c.offset, roleUnit(c.role), { digits: 2 })}`,
          },
        }),
      ]
    : [];
}

/** Offers what a meter check found to the later runs of this bench. */
export function TakeOver({
  notebookId,
  correction: c,
}: {
  readonly notebookId: string;
  readonly correction: BenchCorrection;
}) {
  const [busy, setBusy] = useState(false);
  const live = useLive(
    `rig-${notebookId}`,
    async () => (await rigOf(notebookId)) ?? null,
    (n) => n.kinds.includes("rig"),
  );
  if (live.state !== "ready" || !live.value) return null;
  const rig = live.value;
  const there =
    (!c.leads || Math.abs(rig[c.leads] - (c.ohms ?? 0)) < 1e-3 * (c.ohms ?? 1)) &&
    (c.offset === undefined || Math.abs((rig.offsets?.[c.role] ?? 0) - c.offset) < 1e-2 * Math.abs(c.offset));
  const words = [
    ...(c.leads && c.ohms !== undefined
      ? [
          `${LEADS[c.leads]} of ${formatQuantity(c.ohms, "Ω", { digits: 3 })} (now ${formatQuantity(rig[c.leads], "Ω")})`,
        ]
      : []),
    ...(c.offset !== undefined
      ? [
          `${roleLabel(c.role).toLowerCase()} that read ${formatQuantity(Math.abs(c.offset), roleUnit(c.role), { digits: 2 })} too ${c.offset > 0 ? "much" : "little"}`,
        ]
      : []),
  ].join(", and ");
  return (
    <div className="no-print mt-3 flex flex-wrap items-center gap-4" data-testid="take-over">
      {there ? (
        <p className="text-pencil">New runs correct for this: {words.replace(/ \(now [^)]*\)/, "")}.</p>
      ) : (
        <>
          <p className="max-w-prose">
            Later runs on this bench can correct for it: {words}. Earlier runs keep their values.
          </p>
          <Button
            look="main"
            disabled={busy}
            onClick={() => {
              setBusy(true);
              void attempt(async () =>
                change("use meter check", [edit(rig, corrected(rig, c, now())), ...(await checkedMeter(rig, c))]),
              ).finally(() => setBusy(false));
            }}
          >
            Use correction
          </Button>
        </>
      )}
    </div>
  );
}
