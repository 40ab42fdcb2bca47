/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { SessionContext, type Session } from "@/browser/context";
import type { NotebookRecord } from "@/core/files/records";
import type { EditMeaning } from "@/core/instruments";
import type { EditEffect } from "@/notebook";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { EditQuestion } from "./edit-question";

const session = { notebook: { kind: "notebook", id: "n" } as unknown as NotebookRecord } as Session;

afterEach(cleanup);
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

function asked() {
  const meanings: EditMeaning[] = [];
  const effectOf = (meaning: EditMeaning): Promise<EditEffect> => {
    meanings.push(meaning);
    const title = meaning.kind === "mistake" ? "Load sweep 1" : "Load sweep 2";
    return Promise.resolve({ before: [], rigs: [], runs: [{ title }] } as unknown as EditEffect);
  };
  render(
    <SessionContext.Provider value={session}>
      <EditQuestion
        title="Dunlin B"
        about="Its accuracy changes."
        effectOf={effectOf}
        back="Back to editing"
        onBack={() => undefined}
        onDone={() => undefined}
      />
    </SessionContext.Provider>,
  );
  return {
    meanings,
    user: userEvent.setup(),
    save: screen.getByRole<HTMLButtonElement>("button", { name: "Save change" }),
  };
}

test("nothing is worked out or can be saved before it is said what the edit means", () => {
  const { meanings, save } = asked();
  expect([meanings, save.disabled]).toEqual([[], true]);
});

test("either meaning shows the runs that follow it; the answer to the one before is not taken for it", async () => {
  const { meanings, user, save } = asked();
  await user.click(screen.getByRole("radio", { name: /entered wrongly/ }));
  expect(await screen.findByText("1 run follows: Load sweep 1.")).toBeTruthy();
  await waitFor(() => expect(save.disabled).toBe(false));
  await user.click(screen.getByRole("radio", { name: /new from a day on/ }));
  expect(await screen.findByText("1 run follows: Load sweep 2.")).toBeTruthy();
  expect(screen.queryByText(/Load sweep 1/)).toBeNull();
  expect(meanings.map((m) => m.kind)).toEqual(["mistake", "from"]);
});

test("a date that is none is refused with an example, and nothing can be saved meanwhile", async () => {
  const { meanings, user, save } = asked();
  await user.click(screen.getByRole("radio", { name: /new from a day on/ }));
  await waitFor(() => expect(save.disabled).toBe(false));
  const field = screen.getByLabelText(/^From/);
  await user.clear(field);
  await user.type(field, "1 June");
  expect(screen.getByText("Enter a date as 2026-11-26.")).toBeTruthy();
  expect(save.disabled).toBe(true);
  const before = meanings.length;
  await user.clear(field);
  await user.type(field, "2026-06-01");
  await waitFor(() => expect(save.disabled).toBe(false));
  expect(meanings.slice(before)).toEqual([{ kind: "from", date: "2026-06-01" }]);
});
