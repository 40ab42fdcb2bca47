/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { HOUSE_RULES } from "@/core/measurement";
import { judgeNeed, type Candidate } from "@/core/need";
import { Ranking, type RankingProps } from "./ranking";

// The link needs the application's router, which no test has.
jest.mock("next/link", () => ({ __esModule: true, default: ({ children }: { children: unknown }) => children }));

const need: RankingProps["need"] = {
  id: "lamp" as never,
  title: "Hide lamp",
  note: "",
  currency: "€",
  requirements: [{ id: "price", level: "must", kind: "fact", fact: "price", atMost: 5 }],
};
/** Boards that cost 1.01, 1.02, … so that every place is known. */
const boards = (count: number): Candidate[] =>
  Array.from({ length: count }, (_, k) => ({
    boardId: `b${k}`,
    title: `Reed ${k + 1}`,
    functions: ["boost"],
    facts: { price: 1 + (k + 1) / 100 },
    claims: [],
    evidence: [],
  }));
/** They as they are ranked, with what the reasons are then worked out from. */
const weighed = (all: readonly Candidate[]): Pick<RankingProps, "boards" | "candidates"> => ({
  boards: all.map((b) => ({ ...b, outcomes: new Map([["lamp", judgeNeed(need, b, HOUSE_RULES)]]) })),
  candidates: (ids) => Promise.resolve(all.filter((b) => ids.includes(b.boardId))),
});
const shown = () => screen.getAllByRole("columnheader").flatMap((h) => /Reed \d+/.exec(h.textContent ?? "") ?? []);

afterEach(cleanup);

test("of many boards the first places are shown, the others when they are asked for", async () => {
  const user = userEvent.setup();
  render(<Ranking need={need} rules={HOUSE_RULES} {...weighed(boards(30))} />);
  expect(shown()).toEqual(Array.from({ length: 24 }, (_, k) => `Reed ${k + 1}`));
  await user.click(screen.getByRole("button", { name: "Show all 30 boards" }));
  expect(shown()).toHaveLength(30);
  expect(screen.queryByRole("button", { name: /Show all/ })).toBeNull();
});

test("of few boards all are shown, and a name that is chosen gives its reasons", async () => {
  const user = userEvent.setup();
  render(<Ranking need={need} rules={HOUSE_RULES} {...weighed(boards(3))} />);
  expect(shown()).toEqual(["Reed 1", "Reed 2", "Reed 3"]);
  expect(screen.queryByRole("button", { name: /Show all/ })).toBeNull();
  expect(screen.getByRole("heading", { name: "Why Reed 1 ranks there" })).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "Reed 2" }));
  expect(screen.getByRole("heading", { name: "Why Reed 2 ranks there" })).toBeTruthy();
  expect(await screen.findByRole("rowheader", { name: "buy Reed 2 as it is" })).toBeTruthy();
});

test("without boards it says so", () => {
  render(<Ranking need={need} rules={HOUSE_RULES} {...weighed([])} />);
  expect(screen.getByText("No boards yet.")).toBeTruthy();
});
