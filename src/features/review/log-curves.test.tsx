/** @jest-environment jsdom */
import "@/testing/screen";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import type { ChartSpec, Role } from "@/core/measurement";
import type { WorkerClient } from "@/workers/client";
import { LogCurves } from "./log-curves";

/** Told by the test what is in sight, by the chart that stands there. */
const sights = new Map<Element, (inSight: boolean) => void>();
class Sights implements IntersectionObserver {
  readonly root = null;
  readonly rootMargin = "";
  readonly scrollMargin = "";
  readonly thresholds = [];
  constructor(private readonly tell: IntersectionObserverCallback) {}
  observe(e: Element): void {
    sights.set(e, (isIntersecting) => this.tell([{ isIntersecting } as IntersectionObserverEntry], this));
  }
  unobserve(): void {}
  disconnect(): void {}
  takeRecords(): IntersectionObserverEntry[] {
    return [];
  }
}
globalThis.IntersectionObserver = Sights;

beforeEach(() => {
  jest.useFakeTimers();
  sights.clear();
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

const ROLES: readonly Role[] = ["cellVoltage", "cellCurrent", "inputVoltage", "partTemperature", "ambientTemperature"];
const CHARTS = ROLES.map((role, k) => ({
  claims: [],
  spec: {
    id: `chart ${k + 1}`,
    title: `Chart ${k + 1}`,
    x: { label: "time", unit: "s" },
    y: { label: "reading", unit: "V" },
    series: [{ id: role, label: role, tone: 0, points: [], role, fit: [] }],
    claims: [],
  } satisfies ChartSpec,
}));

interface Asked {
  readonly from: number;
  readonly to: number;
  answer(): Promise<void>;
  fail(): Promise<void>;
}

/** The charts of a log of 1000 s whose worker answers when the test says so. */
function mounted() {
  const asked: Asked[] = [];
  const worker = {
    ask: (_: string, { from, to }: { from: number; to: number }) =>
      new Promise((resolve, reject) => {
        const x = Float64Array.of(from, to);
        const after = (act_: () => void) => act(async () => act_());
        asked.push({
          from,
          to,
          answer: () => after(() => resolve(Object.fromEntries(ROLES.map((r) => [r, { x, y: x }])))),
          fail: () => after(() => reject(new Error("the worker is gone"))),
        });
      }),
  } as unknown as WorkerClient;
  const log = { id: "r", rows: 1001, seconds: 1000, worker };
  const view = render(<LogCurves log={log} charts={CHARTS} />);
  const last = () => {
    const newest = asked.at(-1);
    if (!newest) throw new Error("nothing was asked");
    return newest;
  };
  return { ...view, asked, last };
}
const press = (key: string) => act(() => void fireEvent.keyDown(document.body, { key }));
const shown = () =>
  [...document.querySelectorAll<HTMLElement>("[data-chart]")].map((c) => `${c.dataset.from}–${c.dataset.to}`);
const waited = (ms: number) => act(() => void jest.advanceTimersByTime(ms));
const WHOLE = "0–1000";

test("a key asks at once; the charts stay until the curves are there, then the first three change together and the others once it is calm", async () => {
  const { last } = mounted();
  press("+");
  expect([last().from, last().to]).toEqual([250, 750]);
  expect(shown()).toEqual(Array(5).fill(WHOLE));
  await last().answer();
  expect(shown()).toEqual([...Array<string>(3).fill("250–750"), WHOLE, WHOLE]);
  expect(screen.getByRole("status").textContent).toBe("8 min 20 s from 4 min 10 s");
  waited(199);
  expect(shown()[3]).toBe(WHOLE);
  waited(1);
  expect(shown()).toEqual(Array(5).fill("250–750"));
});

test("a chart that is in sight does not wait", async () => {
  const { last } = mounted();
  const fifth = document.querySelector('[data-chart="chart 5"]');
  act(() => [...sights].find(([e]) => e.contains(fifth))?.[1](true));
  press("+");
  await last().answer();
  expect(shown()).toEqual([...Array<string>(3).fill("250–750"), WHOLE, "250–750"]);
});

test("steps add up before any is answered, and only the newest is shown", async () => {
  const { asked } = mounted();
  press("+");
  press("+");
  press("ArrowRight");
  expect(asked.map((a) => [a.from, a.to])).toEqual([
    [250, 750],
    [375, 625],
    [437.5, 687.5],
  ]);
  await asked[2]?.answer();
  await asked[0]?.answer();
  await asked[1]?.answer();
  expect(shown()[0]).toBe("437.5–687.5");
});

test("showing all is at once, whatever is still on its way", async () => {
  const { asked, last } = mounted();
  press("+");
  await last().answer();
  press("+");
  press("0");
  expect(shown().slice(0, 3)).toEqual(Array(3).fill(WHOLE));
  await asked[1]?.answer();
  waited(500);
  expect(shown()).toEqual(Array(5).fill(WHOLE));
  expect((screen.getByRole("button", { name: "Show all" }) as HTMLButtonElement).disabled).toBe(true);
});

test("after a step that failed the next one goes from what is shown", async () => {
  const { last } = mounted();
  press("+");
  await last().answer();
  press("+");
  await last().fail();
  expect(shown()[0]).toBe("250–750");
  press("ArrowLeft");
  expect([last().from, last().to]).toEqual([125, 625]);
});

test("a stretch is kept within the log, and is never shorter than can be told apart", async () => {
  const { last } = mounted();
  press("+");
  for (let k = 0; k < 3; k++) press("ArrowLeft");
  expect([last().from, last().to]).toEqual([0, 500]);
  for (let k = 0; k < 40; k++) press("+");
  expect(last().to - last().from).toBeCloseTo(0.02, 9);
});
