import type { BoardRecord, RunRecord } from "@/core/files/records";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import { database } from "@/storage/database";
import { derivedWritten, keptValue, workBegins } from "@/storage/derived";
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

/** The summaries of a notebook's boards that are still good, by board; read in one go. */
export async function keptSummaries(notebookId: string): Promise<Map<string, BoardSummary>> {
  const [rules, found] = await Promise.all([
    rulesOf(notebookId),
    (await database()).getAll("derived", IDBKeyRange.bound("board:", "board;", false, true)),
  ]);
  const stamp = summaryStamp(rules);
  return new Map(
    found.flatMap((k) => (k.stamp === stamp ? [[k.key.slice("board:".length), k.value as BoardSummary]] : [])),
  );
}

/** The columns of a notebook's comparison that are still good, by board; read in one go, so that a thousand are there at once. */
export async function keptColumns(notebookId: string): Promise<Map<string, PackedColumn>> {
  const [rules, found] = await Promise.all([
    rulesOf(notebookId),
    (await database()).getAll("derived", IDBKeyRange.bound("column:", "column;", false, true)),
  ]);
  const stamp = columnStamp(rules);
  return new Map(
    found.flatMap((k) => (k.stamp === stamp ? [[(k.value as PackedColumn).boardId, k.value as PackedColumn]] : [])),
  );
}

/** A board's column of the comparison, kept until something under it changes. */
export async function comparedBoard(compute: Compute, board: BoardRecord): Promise<ComparedBoard> {
  const stamp = columnStamp(await rulesOf(board.notebookId));
  const [column, cells] = await Promise.all([
    keptValue<PackedColumn>(`column:${board.id}`, stamp),
    keptValue<BoardColumn["cells"]>(`cells:${board.id}`, stamp),
  ]);
  return column && cells ? { column, cells } : compute.ofBoard("compared", board.id, null);
}

/** Notes what a better analysis moved: it is shown no more. */
export async function noteMoved(compute: Compute, board: BoardRecord, runs: readonly RunRecord[]): Promise<void> {
  const since = workBegins();
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
