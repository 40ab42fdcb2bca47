/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { BoardRecord, ClaimRecord } from "@/core/files/records";
import { change, ofKind, record, todaysDate } from "@/storage";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { ClaimDialog } from "./claim-dialog";

const notebookId = "n" as BoardRecord["notebookId"];
const base = { notebookId, createdAt: "2026-11-20T08:00:00Z", updatedAt: "2026-11-20T08:00:00Z" };
const board: BoardRecord = {
  kind: "board",
  id: "b" as BoardRecord["id"],
  ...base,
  title: "Sedge 51",
  functions: ["boost"],
  note: "",
};

beforeAll(() => change("begin", [board], { journal: false }));
afterEach(cleanup);
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("a claim is dated today, refused without its wording, and stored as it was typed", async () => {
  const user = userEvent.setup();
  let closed = 0;
  render(<ClaimDialog board={board} claim={null} onClose={() => closed++} />);
  const dialog = screen.getByRole("dialog", { name: "Add claim" });
  expect(within(dialog).getByLabelText<HTMLInputElement>("Date").value).toBe(todaysDate());
  await user.click(within(dialog).getByRole("button", { name: "Save claim" }));
  expect(await within(dialog).findByText("Copy the wording exactly.")).toBeTruthy();
  expect([closed, (await ofKind(notebookId, "claim")).length]).toEqual([0, 0]);
  await user.type(within(dialog).getByLabelText(/^Wording/), "up to 1.2 A");
  await user.type(within(dialog).getByLabelText(/^Limit/), ">= 1.2 A");
  await user.click(within(dialog).getByRole("button", { name: "Save claim" }));
  await waitFor(() => expect(closed).toBe(1));
  expect(await ofKind(notebookId, "claim")).toMatchObject([
    {
      boardId: board.id,
      source: { kind: "listing", wording: "up to 1.2 A", date: todaysDate() },
      readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1.2 } }],
    },
  ]);
});

test("what can't be read as a limit or as a date stays in its field with the reason; nothing is stored", async () => {
  const user = userEvent.setup();
  const [claim] = (await ofKind(notebookId, "claim")) as [ClaimRecord];
  render(<ClaimDialog board={board} claim={claim} onClose={() => undefined} />);
  const dialog = screen.getByRole("dialog", { name: "Edit claim" });
  const [limit, date] = [within(dialog).getByLabelText(/^Limit/), within(dialog).getByLabelText("Date")];
  await user.clear(limit);
  await user.type(limit, "about an amp");
  await user.clear(date);
  await user.type(date, "30.2.2026");
  await user.click(within(dialog).getByRole("button", { name: "Save claim" }));
  await waitFor(() => expect(date.getAttribute("aria-invalid")).toBe("true"));
  expect(limit.getAttribute("aria-invalid")).toBe("true");
  expect([(limit as HTMLInputElement).value, (date as HTMLInputElement).value]).toEqual(["about an amp", "30.2.2026"]);
  expect(await record("claim", claim.id)).toEqual(claim);
});
