/** @jest-environment jsdom */
import "@/testing/screen";
import { act, cleanup, render, screen } from "@testing-library/react";
import type { BoardId, BoardRecord, NotebookId } from "@/core/files/records";
import type { BoardSummary } from "@/notebook";
import { BoardEntry } from "./board-entry";

// The link needs the application's router, which no test has.
jest.mock("next/link", () => ({ __esModule: true, default: ({ children }: { children: unknown }) => children }));

const AT = "2026-11-25T08:00:00Z";
const BOARD: BoardRecord = {
  kind: "board",
  id: "b" as BoardId,
  notebookId: "n" as NotebookId,
  createdAt: AT,
  updatedAt: AT,
  title: "Sedge 51",
  note: "in bags of five",
  functions: ["boost"],
};
const SUMMARY: BoardSummary = {
  verdicts: { meets: 3, misses: 1 },
  words: {},
  simulated: 0,
  disagree: 0,
  claims: 4,
  samples: 1,
  runs: [{ id: "r", title: "Load sweep", state: "finished", procedure: "load-sweep" }],
};
afterEach(cleanup);

/** A row in a list whose sight is told by the test. */
function mounted(first: boolean, summary: BoardSummary | null, failed: string | null = null) {
  let near: () => void = () => undefined;
  let watched = 0;
  const view = render(
    <BoardEntry
      board={BOARD}
      summary={summary}
      failed={failed}
      first={first}
      sight={(_, come) => {
        watched++;
        near = come;
        return () => watched--;
      }}
    />,
  );
  return { ...view, comes: () => act(() => near()), watched: () => watched };
}
const row = () => screen.getByRole("article", { name: "Sedge 51" });

test("a row is its name until it comes near, and stays whole from then on", () => {
  const { comes, unmount, watched } = mounted(false, SUMMARY);
  expect(row().textContent).toBe("Sedge 51");
  comes();
  expect(row().textContent).toContain("3meets");
  expect(row().textContent).toContain("1 run finished");
  expect(watched()).toBe(1);
  unmount();
  expect(watched()).toBe(0);
});

test("the first rows are whole at once; what is still judged says so, and what can't be says why", () => {
  mounted(true, null);
  expect([row().dataset.judged, row().textContent]).toEqual(["false", expect.stringContaining("being judged …")]);
  cleanup();
  mounted(true, null, "no such run");
  expect([row().dataset.judged, row().textContent]).toEqual([
    "true",
    expect.stringContaining("Can't be worked out: no such run"),
  ]);
});
