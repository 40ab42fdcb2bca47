"use client";

import { compute } from "@/workers/compute";
import { useEffect, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { Chemistry } from "@/core/cells";
import type { PackRecord } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { attempt, notify, notifyUndoable } from "@/browser/notify";
import { addPack, drawer, takeApart, type DrawerCell } from "@/notebook";
import { ofKind, undoAct, useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormCheckbox, FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { computing } from "@/workers/client";
import { Groups } from "./groups";
import { chemistryChoices, freeCells, packCell } from "./pack-cells";

/** Packs: cells of the drawer matched so that the weakest group holds most, and those that were put together. */
export function PacksPage() {
  const { notebook } = useSession();
  const live = useLive(`packs-${notebook.id}`, async () => ({
    packs: await ofKind(notebook.id, "pack"),
    cells: (await drawer(compute, notebook.id)).cells,
  }));
  useEffect(() => {
    document.title = "Packs · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The packs can&apos;t be loaded: {live.message}</Quiet>;
  const { packs, cells } = live.value;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="packs"
        title="Packs"
        aside={
          <Link href="/cells" className={buttonClass("bare")}>
            Cell drawer
          </Link>
        }
      >
        <Match cells={cells} />
      </Section>
      {packs.map((p) => (
        <Pack key={p.id} pack={p} cells={cells} />
      ))}
    </div>
  );
}

interface Fields {
  title: string;
  series: number | null;
  parallel: number | null;
  chemistry: Chemistry;
  measured: boolean;
}

/** Cells of the pack that is asked for to begin with. */
const FIRST_CELLS = 4;
/** Most groups, and cells in a group, that are asked for. */
const MOST = 40;
const whole = (v: number): string | null =>
  Number.isInteger(v) && v >= 1 && v <= MOST ? null : `A whole number from 1 to ${MOST}.`;

function Match({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const { notebook } = useSession();
  const choices = chemistryChoices(cells);
  const { control, handleSubmit } = useForm<Fields>({
    defaultValues: {
      title: "Pack",
      series: 2,
      parallel: FIRST_CELLS / 2,
      chemistry: choices[0]?.value ?? "lithium-ion",
      measured: freeCells(cells, choices[0]?.value ?? "lithium-ion", true).length >= FIRST_CELLS,
    },
  });
  const f = useWatch({ control }) as Fields;
  const free = freeCells(cells, f.chemistry, f.measured);
  const [found, setFound] = useState<readonly (readonly DrawerCell[])[] | null>(null);
  const wanted = (f.series ?? 0) * (f.parallel ?? 0);
  const match = handleSubmit(({ series, parallel }) =>
    attempt(async () => {
      if (!series || !parallel) return;
      if (free.length < series * parallel) {
        setFound(null);
        return notify(
          `${free.length} cells are free, ${series * parallel} are needed: add ${series * parallel - free.length}, or choose a smaller pack.`,
          { kind: "error" },
        );
      }
      const byId = new Map(free.map((c) => [c.cell.id as string, c]));
      const { groups } = await computing().ask("match", {
        cells: free.map((c) => ({ code: c.cell.id, capacity: packCell(c).capacity })),
        series,
        parallel,
      });
      setFound(groups.map((g) => g.flatMap((m) => byId.get(m.code) ?? [])));
    }),
  );
  const save = () =>
    void attempt(async () => {
      if (!found) return;
      const pack = await addPack(f.title.trim() || "Pack", found, "", notebook.id);
      setFound(null);
      await notify(`${pack.title} saved. It is in the drawer with a code of its own; its cells are marked.`);
    });
  return (
    <>
      <p className="mb-3 text-pencil">
        {free.length} {free.length === 1 ? "cell is" : "cells are"} free. The largest are chosen, and grouped so that
        the weakest group holds as much as possible.
      </p>
      <Form onSubmit={match}>
        <div className="flex flex-wrap gap-x-5">
          <FormText control={control} name="title" label="Name of the pack" missing="Enter a name." maxLength={80} />
          <FormNumber
            control={control}
            name="series"
            label="In series"
            quantity=""
            missing="Enter a number."
            refuse={whole}
          />
          <FormNumber
            control={control}
            name="parallel"
            label="In parallel"
            quantity=""
            missing="Enter a number."
            refuse={whole}
          />
          {choices.length > 1 ? (
            <FormSelect control={control} name="chemistry" label="Chemistry" place="above" choices={choices} />
          ) : null}
        </div>
        <FormCheckbox control={control} name="measured" className="mb-3">
          Only cells whose capacity was measured
        </FormCheckbox>
        <div className="mb-4 flex flex-wrap gap-3">
          <Button look={found ? "plain" : "main"} type="submit">
            Match {wanted || ""} cells
          </Button>
          {found ? (
            <Button look="main" onClick={save}>
              Save pack
            </Button>
          ) : null}
        </div>
      </Form>
      {found ? (
        <>
          <Groups groups={found} />
          <p className="mt-2 max-w-prose text-sm text-pencil">
            <span className="font-semibold text-ink">Caution. </span>Join only cells at the same voltage. Use holders or
            welded tabs, never solder on a cell; insulate your tools. Fit a fuse at the pack&apos;s positive pole and a
            board that watches every group.
          </p>
        </>
      ) : null}
    </>
  );
}

function Pack({ pack, cells }: { readonly pack: PackRecord; readonly cells: readonly DrawerCell[] }) {
  const byId = new Map(cells.map((c) => [c.cell.id as string, c]));
  const groups = pack.groups.map((g) => g.flatMap((id) => byId.get(id) ?? []));
  const lost = pack.groups.flat().filter((id) => !byId.has(id)).length;
  const apart = () =>
    void attempt(async () => {
      const act = await takeApart(pack);
      await notifyUndoable(
        `${pack.title} is taken apart; its cells are back in the drawer.`,
        act && (() => undoAct(act)),
      );
    });
  return (
    <Section
      mark="pack"
      title={`${pack.title}, ${pack.groups.length} in series × ${pack.groups[0]?.length ?? 0} in parallel`}
      aside={
        <span className="flex flex-wrap items-baseline gap-x-4">
          {pack.cellId ? (
            <Link href={`/cells/${pack.cellId}`} className={buttonClass("bare")}>
              Open pack
            </Link>
          ) : null}
          <Button look="bare" onClick={apart}>
            Take apart
          </Button>
        </span>
      }
    >
      {lost ? (
        <p className="mb-2 text-close">
          {lost === 1 ? "One of its cells was deleted." : `${lost} of its cells were deleted.`}
        </p>
      ) : null}
      <Groups groups={groups.filter((g) => g.length)} />
    </Section>
  );
}
