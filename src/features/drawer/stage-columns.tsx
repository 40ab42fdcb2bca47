"use client";

import {
  DndContext,
  KeyboardCode,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type KeyboardCoordinateGetter,
} from "@dnd-kit/core";
import { format } from "date-fns";
import { useState } from "react";
import { CELL_STAGES, gradeText, rejection, type CellStage } from "@/core/cells";
import { formatQuantity } from "@/core/quantities";
import { attempt, notify, notifyUndoable } from "@/browser/notify";
import { endCharge, rejectCell, startCharge, type DrawerCell } from "@/notebook";
import { undoAct } from "@/storage";
import { ChargeEnd } from "@/ui/charge-end";
import { Dialog } from "@/ui/dialog";
import { Link } from "@/ui/link";
import { ReasonDialog } from "@/ui/reason-dialog";
import { STATE_SIGN, STATE_TONE } from "./words";

const TITLES: Readonly<Record<CellStage, string>> = {
  in: "In",
  charging: "Charging",
  resting: "Resting",
  full: "Full",
  graded: "Graded",
  "in a pack": "In a pack",
  rejected: "Rejected",
};

/** Left and right go from column to column. */
const sideways: KeyboardCoordinateGetter = (event, { currentCoordinates, context }) => {
  const step = event.code === KeyboardCode.Right ? 1 : event.code === KeyboardCode.Left ? -1 : 0;
  const over = context.over?.id ?? context.active?.data.current?.stage;
  const next = CELL_STAGES[CELL_STAGES.indexOf(over as CellStage) + step];
  const rect = next === undefined ? undefined : context.droppableRects.get(next);
  if (!step || !rect) return undefined;
  event.preventDefault();
  return { x: rect.left + 8, y: currentCoordinates.y };
};

/** What moving a cell into a column asks, or why that is no act. */
type Asked = { readonly kind: "end" | "reject"; readonly c: DrawerCell };

/** Why a cell gets into a column by no act of its own. */
const BY_ITSELF: Readonly<Partial<Record<CellStage, string>>> = {
  full: "A cell is full once its rest voltage has been read again.",
  graded: "Grades come from measured values: discharge the cell for its capacity.",
  "in a pack": "Match cells on the page Packs.",
};

/** Does what moving a cell from its column into another means. */
function useMoves() {
  const [asked, setAsked] = useState<Asked | null>(null);
  const say = (text: string) => void notify(text);
  const move = (c: DrawerCell, to: CellStage) => {
    const from = c.stage.stage;
    if (from === to) return;
    if (to === "rejected") return setAsked({ kind: "reject", c });
    if (from === "rejected")
      return to === "in"
        ? void attempt(() => rejectCell(c.cell, null))
        : say(`${c.cell.title} is rejected. Use it again first: move it to In.`);
    if (from === "charging")
      return c.charge ? setAsked({ kind: "end", c }) : say(`${c.cell.title} charges in a run: finish the run.`);
    if (from === "in a pack")
      return say(`${c.cell.title} is in ${c.pack?.title ?? "a pack"}. Take the pack apart on the page Packs.`);
    if (to !== "charging")
      return say(
        BY_ITSELF[to] ??
          (to === "resting"
            ? "A cell rests once it comes off the charger: move it to Charging first."
            : "A cell is back in the drawer once it is read after use."),
      );
    const why = rejection(c.triage);
    if (why) return say(`${c.cell.title} is not charged any more: ${why}.`);
    void attempt(async () => {
      const act = await startCharge({ cell: c.cell, volts: null });
      await notifyUndoable(`${c.cell.title} charges.`, act && (() => undoAct(act)));
    });
  };
  return { asked, move, close: () => setAsked(null) };
}

/** The drawer as columns, from taken in to in a pack. */
export function StageColumns({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const { asked, move, close } = useMoves();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sideways }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const c = cells.find((x) => x.cell.id === active.id);
    if (c && over) move(c, over.id as CellStage);
  };
  return (
    <DndContext
      id="stages"
      sensors={sensors}
      onDragEnd={onDragEnd}
      accessibility={{
        screenReaderInstructions: {
          draggable:
            "Space picks a cell up, the arrow keys left and right move it to another column, Space puts it down, Escape leaves it.",
        },
      }}
    >
      <div className="overflow-x-auto">
        <div className="grid min-w-240 grid-cols-7 gap-x-2 px-4 py-3">
          {CELL_STAGES.map((stage) => (
            <Column key={stage} stage={stage} cells={cells.filter((c) => c.stage.stage === stage)} />
          ))}
        </div>
      </div>
      {asked?.kind === "end" ? (
        <Dialog
          title={`${asked.c.cell.title} comes off the charger`}
          about="Measure at the cell with nothing connected."
          onClose={close}
        >
          <ChargeEnd
            title={asked.c.cell.title}
            onCancel={close}
            onEnd={(volts, stopped) =>
              attempt(async () => {
                if (asked.c.charge) await endCharge(asked.c.charge, asked.c.cell, volts, stopped);
                close();
              })
            }
          />
        </Dialog>
      ) : null}
      {asked?.kind === "reject" ? (
        <ReasonDialog
          title={`Reject ${asked.c.cell.title}`}
          about="It leaves the lists and is not charged again. Its history stays."
          first={rejection(asked.c.triage) ?? ""}
          act="Reject cell"
          onClose={close}
          onReason={(why) => attempt(() => rejectCell(asked.c.cell, why))}
        />
      ) : null}
    </DndContext>
  );
}

function Column({ stage, cells }: { readonly stage: CellStage; readonly cells: readonly DrawerCell[] }) {
  const { setNodeRef, isOver } = useDroppable({ id: stage });
  return (
    <section
      ref={setNodeRef}
      aria-label={TITLES[stage]}
      data-stage={stage}
      className={`min-h-40 border-t-2 ${isOver ? "border-margin bg-film" : "border-pencil/60"}`}
    >
      <h3 className="flex justify-between px-1 py-1 text-sm font-semibold">
        {TITLES[stage]} <span className="figures font-normal text-pencil">{cells.length}</span>
      </h3>
      <ul>
        {cells.map((c) => (
          <Card key={c.cell.id} c={c} />
        ))}
      </ul>
    </section>
  );
}

/** What matters of a cell in its column. */
function detail(c: DrawerCell): string {
  const volts = c.triage.last?.volts;
  if (c.stage.stage === "in a pack") return c.pack?.title ?? "";
  if (c.stage.stage === "graded" && c.grade)
    return `${gradeText(c.grade)}, ${formatQuantity(c.capacity?.value ?? 0, "Ah", { digits: 3 })}`;
  if (c.stage.stage === "charging") return c.charge?.bay ? `bay ${c.charge.bay}` : "on a charger";
  return volts ? formatQuantity(volts, "V", { digits: 4 }) : "not read";
}

function Card({ c }: { readonly c: DrawerCell }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: c.cell.id,
    data: { stage: c.stage.stage },
  });
  const { word } = c.triage;
  return (
    <li
      ref={setNodeRef}
      data-card={c.cell.title}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : {}}
      className={`mb-1 border border-rule bg-sheet px-2 py-1 text-sm ${isDragging ? "relative z-20 border-ink" : ""}`}
    >
      <div {...attributes} {...listeners} aria-label={`Move ${c.cell.title}`} className="cursor-grab touch-none">
        <span className="flex items-baseline justify-between gap-1">
          <span className="truncate font-medium">{c.cell.title}</span>
          {word === "reject it" || word === "in doubt" ? (
            <span className={STATE_TONE[word]} aria-label={word}>
              {STATE_SIGN[word]}
            </span>
          ) : null}
        </span>
        <span className="block truncate text-pencil">{detail(c)}</span>
      </div>
      <span className="flex justify-between gap-1 text-pencil">
        <Link href={`/cells/${c.cell.id}`} className="figures hover:underline">
          {c.code}
        </Link>
        {c.stage.since ? format(new Date(c.stage.since), "d MMM") : ""}
      </span>
    </li>
  );
}
