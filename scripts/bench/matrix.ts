import type { BrowserContext, Page } from "@playwright/test";
import { freshProfile } from "./profile";
import type { Figure } from "./report";

const BOARDS = 1000;
/** Runs of each board: with its readings, points or log, behind every one. */
const RUNS = 21;
const OPENINGS = 5;
/** Longest that working out every run of every board may take before the benchmark gives up, ms. */
const PATIENCE = 1_800_000;

/** ms in which the browser tidies its database up after what was kept has been deleted. */
const TIDYING = 6000;

interface Filled {
  readonly boards: number;
  readonly runs: number;
  readonly readings: number;
}

/**
 * Runs in a page: lays copies of the demo's finished runs, each with its own points, answers, marks and log, under boards of their own,
 * straight into the database.
 */
async function fill({ boards, runs }: { boards: number; runs: number }): Promise<Filled> {
  type Rec = Record<string, unknown> & { id: string; kind: string };
  const db = await new Promise<IDBDatabase>((ok, no) => {
    const r = indexedDB.open("nimbus-bench");
    r.onsuccess = () => ok(r.result);
    r.onerror = () => no(r.error as Error);
  });
  const all = <T>(store: string): Promise<T[]> =>
    new Promise((ok, no) => {
      const r = db.transaction(store).objectStore(store).getAll();
      r.onsuccess = () => ok(r.result as T[]);
      r.onerror = () => no(r.error as Error);
    });
  const records = await all<Rec>("records");
  const chunks = await all<Record<string, unknown> & { runId: string }>("chunks");
  const ofKind = (kind: string) => records.filter((r) => r.kind === kind);
  const finished = ofKind("run").filter((r) => r.state === "finished");
  const parts = new Map<string, Rec[]>();
  for (const r of records) if (typeof r.runId === "string") parts.set(r.runId, [...(parts.get(r.runId) ?? []), r]);
  const logs = new Map<string, (typeof chunks)[number][]>();
  for (const c of chunks) logs.set(c.runId, [...(logs.get(c.runId) ?? []), c]);
  const demoBoards = ofKind("board");
  let readings = 0;
  let made = 0;
  for (let first = demoBoards.length; first < boards; first += 25) {
    const tx = db.transaction(["records", "chunks"], "readwrite");
    const [into, log] = [tx.objectStore("records"), tx.objectStore("chunks")];
    for (let b = first; b < Math.min(boards, first + 25); b++) {
      const model = demoBoards[b % demoBoards.length] as Rec;
      const boardId = `copy-${b}`;
      const sampleId = `${boardId}-sample`;
      into.put({ ...model, id: boardId, title: `${String(model.title)} ${b}` });
      into.put({ ...(ofKind("sample").find((s) => s.boardId === model.id) as Rec), id: sampleId, boardId });
      for (const c of ofKind("claim").filter((x) => x.boardId === model.id))
        into.put({ ...c, id: `${boardId}-${c.id}`, boardId });
      for (let k = 0; k < runs; k++) {
        // Every board gets another twenty of them, in another order.
        const run = finished[(b * 7 + k) % finished.length] as Rec;
        const runId = `${boardId}-run-${k}`;
        into.put({ ...run, id: runId, boardId, sampleId });
        made++;
        for (const p of parts.get(run.id) ?? []) {
          into.put({ ...p, id: `${runId}-${p.id}`, runId });
          readings++;
        }
        for (const c of logs.get(run.id) ?? []) {
          log.put({ ...c, runId });
          readings += Number(c.rows);
        }
      }
    }
    await new Promise<void>((ok, no) => {
      tx.oncomplete = () => ok();
      tx.onerror = () => no(tx.error as Error);
    });
  }
  db.close();
  return { boards, runs: made + finished.length, readings };
}

/** Runs in a page before anything else: notes when the table stood, when its first value showed, and when all in sight were there, each after paint. */
function watchMatrix(): void {
  const clock = { table: 0, value: 0, full: 0, frames: [] as number[], watching: false };
  Object.assign(window, { matrixClock: clock });
  let last = 0;
  /** Whether every cell in sight says what there is of it, and no row is still to come below where there is room for one. */
  const whole = (): boolean => {
    const table = document.querySelector('[role="table"]');
    const box = table?.getBoundingClientRect();
    if (!table || !box) return false;
    const open = [...table.querySelectorAll('[role="cell"]')].filter((c) => c.textContent === "…");
    const inSight = (r: DOMRect) => r.top < box.bottom && r.left < box.right;
    if (open.some((c) => inSight(c.getBoundingClientRect()))) return false;
    const lowest = Math.max(
      ...[...table.querySelectorAll('[role="row"]')].map((r) => r.getBoundingClientRect().bottom),
    );
    return (
      lowest >= box.bottom || !document.querySelector('[role="status"]')?.textContent?.includes("being worked out")
    );
  };
  const look = (now: number) => {
    if (!clock.table && document.querySelector('[role="table"]')) clock.table = performance.now();
    if (!clock.value && document.querySelector('[role="cell"] a')) clock.value = performance.now();
    if (!clock.full && clock.value && whole()) clock.full = performance.now();
    if (clock.watching && last) clock.frames.push(now - last);
    last = clock.watching ? now : 0;
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}

interface MatrixClock {
  table: number;
  value: number;
  full: number;
  frames: number[];
  watching: boolean;
}
const clockOf = (page: Page) => page.evaluate(() => (window as unknown as { matrixClock: MatrixClock }).matrixClock);

async function open(context: BrowserContext, url: string): Promise<{ page: Page; clock: MatrixClock }> {
  const page = await context.newPage();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.addInitScript("globalThis.__name = (f) => f");
  await page.addInitScript(watchMatrix);
  await page.goto(`${url}compare?view=figures`);
  await page.waitForFunction(
    () => (window as unknown as { matrixClock: MatrixClock }).matrixClock.full > 0,
    undefined,
    { timeout: 60_000 },
  );
  return { page, clock: await clockOf(page) };
}

/** Turns the wheel down and up, then across the boards, and gives the ms between frames. */
async function scroll(page: Page): Promise<readonly number[]> {
  await page.mouse.move(700, 500);
  await page.evaluate(() =>
    Object.assign((window as unknown as { matrixClock: MatrixClock }).matrixClock, { watching: true, frames: [] }),
  );
  for (let k = 0; k < 40; k++) await page.mouse.wheel(0, k < 20 ? 120 : -120);
  for (let k = 0; k < 120; k++) await page.mouse.wheel(160, 0);
  for (let k = 0; k < 30; k++) await page.mouse.wheel(120, k % 2 ? 90 : -90);
  await page.waitForTimeout(300);
  const { frames } = await clockOf(page);
  await page.evaluate(() =>
    Object.assign((window as unknown as { matrixClock: MatrixClock }).matrixClock, { watching: false }),
  );
  return frames;
}

/** The comparison of a thousand boards: opened with nothing worked out, and with everything; scrolled in both. */
export async function matrixFigures(url: string): Promise<Figure[]> {
  const context = await freshProfile();
  const first = await context.newPage();
  await first.addInitScript("globalThis.__name = (f) => f");
  await first.goto(url);
  await first.getByRole("heading", { name: "Sedge 51" }).waitFor();
  const begun = performance.now();
  const filled = await first.evaluate(fill, { boards: BOARDS, runs: RUNS });
  console.log(
    `${filled.boards} boards, ${filled.runs} runs, ${filled.readings} readings laid down in ${((performance.now() - begun) / 1000).toFixed(0)} s`,
  );
  await first.goto("about:blank");
  const cold: MatrixClock[] = [];
  let coldFrames: readonly number[] = [];
  let quantities = 0;
  const worked: number[] = [];
  for (let k = 0; k < OPENINGS; k++) {
    // Where nothing is worked out meanwhile.
    await first.goto(`${url}sums`);
    await first.getByText("Reed bed recorders").first().waitFor();
    await first.evaluate(
      () =>
        new Promise<void>((ok) => {
          const r = indexedDB.open("nimbus-bench");
          r.onsuccess = () => {
            // One by one, as a change does it: clearing a store makes the browser tidy the whole database, for seconds, behind the next reading.
            const tx = r.result.transaction("derived", "readwrite");
            const store = tx.objectStore("derived");
            store.getAllKeys().onsuccess = (e) => {
              for (const key of (e.target as IDBRequest<IDBValidKey[]>).result) store.delete(key);
            };
            tx.oncomplete = () => {
              r.result.close();
              ok();
            };
          };
        }),
    );
    // The browser tidies up behind it, for seconds on end, and would do so beside what is measured.
    await first.waitForTimeout(TIDYING);
    await first.goto("about:blank");
    const { page, clock } = await open(context, url);
    cold.push(clock);
    if (k === OPENINGS - 1) {
      coldFrames = await scroll(page);
      const since = performance.now();
      await page.waitForFunction(
        () => !/being worked out/.test(document.querySelector('[role="status"]')?.textContent ?? ""),
        undefined,
        { timeout: PATIENCE, polling: 1000 },
      );
      worked.push((performance.now() - since) / 1000);
      quantities = Number(await page.locator('[role="table"]').getAttribute("aria-rowcount")) - 1;
    }
    await page.close();
  }
  console.log(
    `${quantities} quantities; every run of every board worked out ${(worked[0] ?? NaN).toFixed(0)} s after it was opened cold`,
  );
  const warm: MatrixClock[] = [];
  let warmFrames: readonly number[] = [];
  for (let k = 0; k < OPENINGS; k++) {
    const { page, clock } = await open(context, url);
    warm.push(clock);
    if (k === OPENINGS - 1) warmFrames = await scroll(page);
    await page.close();
  }
  await context.close();
  return [
    {
      name: `Compare, ${BOARDS} boards, cold: the first board's values shown`,
      unit: "ms",
      judged: "median",
      target: 800,
      values: cold.map((c) => c.value),
    },
    {
      name: "Compare, cold: boards and names stand",
      unit: "ms",
      judged: "median",
      target: 1000,
      values: cold.map((c) => c.table),
    },
    {
      name: "Compare, cold: every board in sight worked out",
      unit: "ms",
      judged: "median",
      target: 1200,
      values: cold.map((c) => c.full),
    },
    { name: "Compare, cold: a frame while scrolling", unit: "ms", judged: "most", target: 50, values: coldFrames },
    {
      name: "Compare, warm: opened, every value in sight shown",
      unit: "ms",
      judged: "median",
      target: 1000,
      values: warm.map((c) => c.full),
    },
    { name: "Compare, warm: a frame while scrolling", unit: "ms", judged: "most", target: 50, values: warmFrames },
  ];
}
