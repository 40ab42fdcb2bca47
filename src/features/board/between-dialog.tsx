"use client";

import { compute } from "@/workers/compute";
import { useState } from "react";
import { useForm, useWatch, type Control } from "react-hook-form";
import type { BoardRecord, SampleRecord } from "@/core/files/records";
import {
  BARE,
  checkTopology,
  orderOfConnecting,
  sampleTopology,
  UNKNOWN_BOARD,
  type BoardProtection,
  type SampleBetween,
} from "@/core/use";
import { attempt } from "@/browser/notify";
import { change, edit, useLive } from "@/storage";
import { protectionBoards, type ProtectionBoard } from "@/notebook/usable";
import { Button } from "@/ui/button";
import { CellToWorld, ConnectingOrder } from "@/ui/cell-to-world";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckbox, FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { positive } from "@/ui/refusals";

/** The choices that a sample's picture is built from; lists are typed with commas. */
interface Fields {
  ownProtection: boolean;
  jumper: boolean;
  fuse: number | null;
  /** "no", "yes" for any, or the id of a board of the notebook. */
  added: string;
  taps: string;
  loads: string;
}

const listed = (text: string): string[] => [
  ...new Set(
    text
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean),
  ),
];

const fieldsOf = (b: SampleBetween): Fields => ({
  ownProtection: b.ownProtection,
  jumper: b.jumper,
  fuse: b.fuse ?? null,
  added: b.added ? (b.added.boardId ?? "yes") : "no",
  taps: b.taps.join(", "),
  loads: b.loads.join(", "),
});

const betweenOf = (f: Fields): SampleBetween => ({
  ownProtection: f.ownProtection,
  jumper: f.jumper,
  ...(f.fuse !== null && f.fuse > 0 ? { fuse: f.fuse } : {}),
  ...(f.added === "no" ? {} : { added: f.added === "yes" ? {} : { boardId: f.added } }),
  taps: listed(f.taps),
  loads: listed(f.loads),
});

interface BetweenDialogProps {
  readonly sample: SampleRecord;
  readonly board: BoardRecord;
  readonly protection: BoardProtection;
  onClose(): void;
}

/** What stands between a sample's cell and everything else: a few choices, and the picture that they make. */
export function BetweenDialog({ sample, board, protection, onClose }: BetweenDialogProps) {
  /** As it was when the dialog opened: what was changed elsewhere since is not undone by saving. */
  const [opened] = useState(sample);
  const live = useLive(`protections-${board.notebookId}`, () => protectionBoards(compute, board.notebookId));
  const others = live.state === "ready" ? live.value.filter((p) => p.boardId !== board.id) : [];
  const { control, handleSubmit } = useForm<Fields>({ defaultValues: fieldsOf(opened.between ?? BARE) });
  const between = betweenOf(useWatch({ control }) as Fields);
  const guard = between.added ? (others.find((o) => o.boardId === between.added?.boardId) ?? UNKNOWN_BOARD) : null;
  const topology = sampleTopology(between, protection, guard, board.functions.includes("boost"));
  const check = checkTopology(topology);
  const save = handleSubmit(async (f) => {
    if (
      await attempt(() =>
        change(`edit what stands between the cell and sample ${sample.name}`, [
          edit(opened, { ...opened, between: betweenOf(f) }),
        ]),
      )
    )
      onClose();
  });
  const steps = orderOfConnecting(
    { title: "the cell", parallel: 1 },
    protection,
    { ...between, added: guard ?? undefined },
    between.loads[0] ?? "the load",
  );
  return (
    <Dialog
      wide
      title={`Between the cell and sample ${sample.name}`}
      about="Every way out of the cell must cross a protection that works."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <Choices
          control={control}
          others={others}
          jumper={protection.measured !== false && (protection.measured === true || protection.claimed)}
        />
        <CellToWorld topology={topology} check={check} />
        <ConnectingOrder safety={check.safety} steps={steps} />
        <Button look="main" type="submit" className="mt-3">
          Save
        </Button>
      </Form>
    </Dialog>
  );
}

function Choices({
  control,
  others,
  jumper,
}: {
  readonly control: Control<Fields>;
  readonly others: readonly ProtectionBoard[];
  readonly jumper: boolean;
}) {
  return (
    <>
      <div className="mb-2 flex flex-wrap gap-x-6 gap-y-1">
        <FormCheckbox control={control} name="ownProtection">
          The cell has its own protection, by its maker
        </FormCheckbox>
        {jumper ? (
          <FormCheckbox control={control} name="jumper">
            A closed jumper bypasses the board&apos;s protection
          </FormCheckbox>
        ) : null}
      </div>
      <div className="flex flex-wrap gap-x-5">
        <FormSelect
          control={control}
          name="added"
          label="Added protection board"
          place="above"
          choices={[
            { value: "no", label: "none" },
            { value: "yes", label: "one that is not in the notebook" },
            ...others.map((o) => ({ value: o.boardId, label: o.title })),
          ]}
        />
        <FormNumber control={control} name="fuse" label="Fuse at the cell" quantity="A" refuse={positive} />
        <FormText control={control} name="taps" label="Connected to the bare cell" placeholder="nothing" />
        <FormText control={control} name="loads" label="On the output" placeholder="the load" />
      </div>
    </>
  );
}
