/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { SessionContext, type Session } from "@/browser/context";
import { conflictRecord } from "@/core/files/archive/merge";
import type { BoardRecord, NotebookRecord } from "@/core/files/records";
import { change, openConflicts, record, remove } from "@/storage";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { ConflictsPage } from "./conflicts-page";

const notebookId = "n" as BoardRecord["notebookId"];
const notebook = { kind: "notebook", id: notebookId } as unknown as NotebookRecord;
const session = { notebook } as Session;
const base = { notebookId, createdAt: "2026-11-20T08:00:00Z", updatedAt: "2026-11-20T08:00:00Z" };
let round = 0;
/** Of each test another one: what is deleted keeps its id. */
const board = (title: string, note: string): BoardRecord => ({
  kind: "board",
  id: `b${round}` as BoardRecord["id"],
  ...base,
  title,
  functions: ["boost"],
  note,
});

const page = () =>
  render(
    <SessionContext.Provider value={session}>
      <ConflictsPage />
    </SessionContext.Provider>,
  );

beforeEach(async () => {
  round++;
  const [ours, theirs] = [board("Sedge 51", "as bought"), board("Sedge 52", "with thicker leads")];
  await change("begin", [ours, conflictRecord({ ours, theirs }, "Reed bed, 2026-11-25", "2026-11-26T08:00:00Z")], {
    journal: false,
  });
});
afterEach(async () => {
  cleanup();
  for (const { conflict } of await openConflicts(notebookId)) await remove("end", [conflict]);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("both versions stand side by side, only where they differ, under the archive's name", async () => {
  page();
  expect(await screen.findByText("Archive: Reed bed, 2026-11-25")).toBeTruthy();
  const cells = screen.getAllByRole("cell").map((c) => c.textContent);
  expect(cells).toEqual(expect.arrayContaining(["Sedge 51", "Sedge 52", "as bought", "with thicker leads"]));
  expect(cells.join()).not.toContain("boost");
});

test.each([
  ["Use the archive's version", "Sedge 52", "with thicker leads"],
  ["Keep this notebook's version", "Sedge 51", "as bought"],
])("%s: the record is that one, the question is gone", async (button, title, note) => {
  const user = userEvent.setup();
  page();
  await user.click(await screen.findByRole("button", { name: new RegExp(`^${button}`) }));
  expect(await screen.findByText("No conflicts.")).toBeTruthy();
  await waitFor(async () => expect(await record("board", board("", "").id)).toMatchObject({ title, note }));
  expect(await openConflicts(notebookId)).toEqual([]);
});
