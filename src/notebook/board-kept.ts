import type { BoardRecord, RunRecord } from "@/core/files/records";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import { derivedWritten, keptUnder, keptValue, workBegins } from "@/storage/derived";
import { announce } from "@/storage/notices";
import { resultsOf, type KeptResults } from "./board-dossier";
import type { BoardSummary, ComparedBoard, Compute } from "./compute";
import { rulesOf } from "./rules";
import { columnStamp, resultsStamp, summaryStamp } from "./stamps";

/** What a list of boards shows of one, kept until something under it changes. */
export async function boardSummary(compute: Compute, board: BoardRecord): Promise<BoardSummary> {
  const stamp = summaryStamp(await rulesOf(board.notebookId));
  return (
    (await keptValue<BoardSummary>(`board:${board.id}`, stamp)) ?? (await compute.ofBoard("summary", board.id, null))
  );
}

/** The summaries of boards that are still good under a notebook's rules, by board. */
export const keptSummaries = async (notebookId: string): Promise<Map<string, BoardSummary>> =>
  new Map(await keptUnder<BoardSummary>("board:", summaryStamp(await rulesOf(notebookId))));

/** The columns of the comparison that are still good under a notebook's rules, by board. */
export const keptColumns = async (notebookId: string): Promise<Map<string, PackedColumn>> =>
  new Map(await keptUnder<PackedColumn>("column:", columnStamp(await rulesOf(notebookId))));

/** A board's column of the comparison, kept until something under it changes. */
export async function comparedBoard(compute: Compute, board: BoardRecord): Promise<ComparedBoard> {
  const stamp = columnStamp(await rulesOf(board.notebookId));
  const [column, cells] = await Promise.all([
    keptValue<PackedColumn>(`column:${board.id}`, stamp),
    keptValue<BoardColumn["cells"]>(`cells:${board.id}`, stamp),
  ]);
  return column && cells ? { column, cells } : compute.ofBoard("compared", board.id, null);
}

/** As much of a board's column as runs of these procedures tell whole: sooner there than the column where nothing of it is kept. */
export const comparedPart = (
  compute: Compute,
  board: BoardRecord,
  procedures: ReadonlySet<string>,
): Promise<ComparedBoard> => compute.ofBoard("compared", board.id, [...procedures].sort());

/** Notes what a better analysis moved: it is shown no more. */
export async function noteMoved(compute: Compute, board: BoardRecord, runs: readonly RunRecord[]): Promise<void> {
  const since = await workBegins();
  const [summary, ...results] = await Promise.all([
    boardSummary(compute, board),
    ...runs.map((run) => resultsOf(compute, run)),
  ]);
  const { moved: _moved, ...plain } = summary;
  void _moved;
  compute.keep(
    [
      { key: `board:${board.id}`, stamp: summaryStamp(await rulesOf(board.notebookId)), value: plain },
      ...runs.flatMap((r, k) => {
        const { moved, ...rest } = results[k] as KeptResults;
        return moved ? [{ key: `run:${r.id}`, stamp: resultsStamp(r.procedure), value: rest }] : [];
      }),
    ],
    since,
  );
  await derivedWritten();
  announce({
    notebookId: board.notebookId,
    records: [],
    ids: [board.id],
    kinds: ["derived"],
    runs: runs.map((r) => r.id),
  });
}
