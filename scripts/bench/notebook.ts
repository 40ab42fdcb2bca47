import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { writeArchive } from "@/core/files/archive";
import { unpackDemo } from "@/core/demo/package";
import type { NotebookRecord, StoredRecord } from "@/core/files/records";
import { growing, mainProcess } from "./processes";
import { freshProfile } from "./profile";
import type { Figure } from "./report";

/** Boards of each notebook that is measured, and the runs of one board: 300 boards have 5,000 runs and about 330,000 records. */
const SIZES = (process.env.NIMBUS_BENCH_SIZES ?? "100,300,1000").split(",").map(Number);
const RUNS = 50 / 3;
const JUDGED = 300;
const PATIENCE = 1_200_000;

/** A notebook of so many boards, each with claims and its share of finished load sweeps out of the demo, as an archive in a file. */
export async function archiveFile(
  boards: number,
  to: string,
): Promise<{ readonly records: number; readonly bytes: number }> {
  let n = 0;
  // Ids are random, as those that the application gives: what belongs together does not lie together.
  const idOf = (name: string): string => {
    const hex = createHash("sha256").update(name).digest("hex");
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
  };
  const demo = unpackDemo(readFileSync("public/demo.json", "utf8"), {
    newId: () => idOf(`d${n++}`),
    now: "2026-11-25T08:00:00Z",
    zone: "UTC",
  }).records;
  const of = <K extends StoredRecord["kind"]>(kind: K) =>
    demo.filter((r): r is Extract<StoredRecord, { kind: K }> => r.kind === kind);
  const sweeps = of("run").filter((r) => r.procedure === "load-sweep" && r.state === "finished");
  const parts = new Map(sweeps.map((r) => [r.id as string, demo.filter((p) => "runId" in p && p.runId === r.id)]));
  const models = of("board").filter((b) => sweeps.some((r) => r.boardId === b.id));
  const notebook: NotebookRecord = { ...(of("notebook")[0] as NotebookRecord), title: `${boards} boards` };
  let records = 0;
  const partsOf = (run: number): StoredRecord[] => {
    const like = sweeps[run % sweeps.length] as (typeof sweeps)[number];
    const runId = idOf(`r${run}`);
    const own = parts.get(like.id) ?? [];
    return own.map(
      (p) =>
        ({
          ...p,
          id: idOf(`${runId}-${p.id}`),
          runId,
          ...("target" in p && own.some((x) => x.id === p.target) ? { target: idOf(`${runId}-${p.target}`) } : {}),
        }) as StoredRecord,
    );
  };
  const all = function* (): Generator<readonly StoredRecord[]> {
    yield [notebook, ...of("rules"), ...of("rig"), ...of("instrument"), ...of("need")];
    let run = 0;
    for (let b = 0; b < boards; b++) {
      const model = models[b % models.length] as (typeof models)[number];
      const boardId = idOf(`b${b}`);
      const batch: StoredRecord[] = [
        {
          ...model,
          id: boardId as never,
          title: `${model.title} no ${b}`,
          createdAt: new Date(Date.parse(model.createdAt) + b * 1000).toISOString(),
        },
      ];
      const sample = of("sample").find((s) => s.boardId === model.id) as StoredRecord;
      batch.push({ ...sample, id: idOf(`${boardId}-s`), boardId } as StoredRecord);
      for (const c of of("claim").filter((x) => x.boardId === model.id))
        batch.push({ ...c, id: idOf(`${boardId}-${c.id}`), boardId } as StoredRecord);
      for (; run < Math.round((b + 1) * RUNS); run++) {
        const like = sweeps[run % sweeps.length] as (typeof sweeps)[number];
        const id = idOf(`r${run}`);
        batch.push({
          ...like,
          id: id as never,
          boardId: boardId as never,
          sampleId: idOf(`${boardId}-s`) as never,
          source: { kind: "typed" },
          startUtc: new Date(Date.parse(like.startUtc) + run * 1000).toISOString(),
        });
      }
      records += batch.length;
      yield batch;
    }
    // What belongs to runs comes in the order of their ids, as an export reads it.
    const order = Array.from({ length: run }, (_, k) => k).sort((a, b) => (idOf(`r${a}`) < idOf(`r${b}`) ? -1 : 1));
    for (const k of order) {
      const own = partsOf(k);
      records += own.length;
      yield own;
    }
  };
  const blob = await writeArchive(
    {
      notebook,
      records: all,
      content: () => Promise.resolve(null),
      logs: [],
      log: () => Promise.resolve(null),
      sheets: new Map(),
    },
    "2026-11-25T09:00:00Z",
  );
  writeFileSync(to, Buffer.from(await blob.arrayBuffer()));
  return { records, bytes: blob.size };
}

/** Runs in a page before anything else: when the names of boards stood, and when every verdict in sight did, each after paint. */
export function watchNotebook(): void {
  const clock = { names: 0, verdicts: 0, ranked: 0 };
  Object.assign(window, { notebookClock: clock });
  let last = 0;
  const look = () => {
    // Once all is seen it stops: it would go on taking a tenth of a core.
    if (clock.names && clock.verdicts && location.pathname !== "/decide") return;
    if (clock.ranked) return;
    requestAnimationFrame(look);
    // Looking costs time itself: a layout, and the text of every row in sight.
    if (performance.now() - last < 40) return;
    last = performance.now();
    const entries = [...document.querySelectorAll("article[data-board]")];
    if (!clock.names && entries.length) clock.names = performance.now();
    // They stand one below the other: what comes after the first that is out of sight is not measured.
    const beyond = entries.findIndex((e) => e.getBoundingClientRect().top >= innerHeight);
    const near = entries.slice(0, beyond < 0 ? entries.length : beyond);
    if (!clock.verdicts && near.length && !near.some((e) => (e as HTMLElement).dataset.judged === "false"))
      clock.verdicts = performance.now();
    if (!clock.ranked && location.pathname === "/decide" && document.querySelector("main ol, main table"))
      clock.ranked = performance.now();
  };
  requestAnimationFrame(look);
}
interface NotebookClock {
  names: number;
  verdicts: number;
  ranked: number;
}
const clockOf = (page: Page) =>
  page.evaluate(() => (window as unknown as { notebookClock: NotebookClock }).notebookClock);

interface Measured {
  readonly imported: number;
  readonly names: number;
  readonly verdicts: number;
  readonly whole: number;
  readonly warm: number;
  readonly decide: number;
  readonly out: number;
  readonly openGrowth: number;
  readonly outGrowth: number;
}

async function measure(url: string, boards: number, file: string): Promise<Measured> {
  const context = await freshProfile();
  const pid = mainProcess();
  try {
    context.setDefaultTimeout(PATIENCE);
    const open = async (path: string) => {
      const page = await context.newPage();
      await page.addInitScript("globalThis.__name = (f) => f");
      await page.addInitScript(watchNotebook);
      await page.goto(`${url}${path}`);
      return page;
    };
    const first = await open("");
    await first.getByText("Reed bed recorders").first().click();
    const begun = performance.now();
    await first.getByLabel("Archive to import").setInputFiles(file);
    // More than 512 MB unpacked are asked about.
    const asked = first.getByRole("button", { name: "Import archive" }).last();
    await Promise.race([
      first.getByRole("heading", { name: `${boards} boards` }).waitFor(),
      first
        .getByRole("heading", { name: /^This archive unpacks to/ })
        .waitFor()
        .then(() => asked.click()),
    ]);
    await first.getByRole("heading", { name: `${boards} boards` }).waitFor();
    const imported = performance.now() - begun;
    await first.goto("about:blank");
    await first.close();
    const grows = growing(pid);
    const cold = await open("");
    await cold.waitForFunction(
      () => (window as unknown as { notebookClock: NotebookClock }).notebookClock.verdicts > 0,
    );
    const { names, verdicts } = await clockOf(cold);
    const since = performance.now();
    await cold.waitForFunction(() => !document.querySelector("article[data-judged=false]"), undefined, {
      polling: 500,
    });
    const whole = verdicts + performance.now() - since;
    const openGrowth = grows();
    await cold.close();
    const again = await open("");
    await again.waitForFunction(
      () => (window as unknown as { notebookClock: NotebookClock }).notebookClock.verdicts > 0,
    );
    const warm = (await clockOf(again)).verdicts;
    await again.close();
    // The first visit works out what is kept of each board for weighing.
    const weigh = await open("decide");
    await weigh.waitForFunction(() => (window as unknown as { notebookClock: NotebookClock }).notebookClock.ranked > 0);
    await weigh.waitForTimeout(1500);
    await weigh.close();
    const decided = await open("decide");
    await decided.waitForFunction(
      () => (window as unknown as { notebookClock: NotebookClock }).notebookClock.ranked > 0,
    );
    const decide = (await clockOf(decided)).ranked;
    await decided.close();
    const leaving = await open("");
    await leaving.getByText(`${boards} boards`).first().waitFor();
    await leaving.getByRole("button", { name: `${boards} boards` }).click();
    const outGrows = growing(pid);
    const went = performance.now();
    await Promise.all([
      leaving.waitForEvent("download", { timeout: PATIENCE }),
      leaving
        .getByRole("dialog")
        .getByRole("listitem")
        .filter({ hasText: `${boards} boards` })
        .getByRole("button", { name: "Export archive" })
        .click(),
    ]);
    const out = performance.now() - went;
    const outGrowth = outGrows();
    return { imported, names, verdicts, whole, warm, decide, out, openGrowth, outGrowth };
  } finally {
    await context.close();
  }
}

/** The exponent with which a cost grows from the smallest notebook to the largest: 1 where it grows like the notebook. */
const exponent = (small: number, large: number): number =>
  Math.log(large / small) / Math.log((SIZES.at(-1) ?? 1) / (SIZES[0] ?? 1));

/** Notebooks of several sizes, out of an archive and with nothing worked out: opened cold and warm, decided from, and exported. */
export async function notebookFigures(url: string): Promise<Figure[]> {
  const dir = mkdtempSync(join(tmpdir(), "nimbus-bench-"));
  const all: { readonly boards: number; readonly m: Measured }[] = [];
  try {
    for (const boards of SIZES) {
      const file = join(dir, `${boards}.zip`);
      const { records, bytes } = await archiveFile(boards, file);
      const m = await measure(url, boards, file);
      all.push({ boards, m });
      console.log(
        `${boards} boards, ${Math.round(boards * RUNS)} runs, ${records} records, archive ${(bytes / 1e6).toFixed(0)} MB: ${Object.entries(
          m,
        )
          .map(([k, v]) => `${k} ${(v as number).toFixed(0)}`)
          .join(", ")}`,
      );
    }
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
  const judged = all.find((x) => x.boards === JUDGED) ?? (all[0] as (typeof all)[number]);
  const f = (name: string, key: keyof Measured, target: number, unit: Figure["unit"] = "ms"): Figure => ({
    name: `Notebook of ${judged.boards} boards: ${name}`,
    unit,
    judged: "most",
    target,
    values: [judged.m[key]],
  });
  const costs: readonly (keyof Measured)[] = ["imported", "names", "verdicts", "whole", "warm", "decide", "out"];
  for (const k of costs)
    console.log(
      `${k}: exponent ${exponent((all[0] as (typeof all)[number]).m[k], (all.at(-1) as (typeof all)[number]).m[k]).toFixed(2)} over ${SIZES.join(", ")} boards`,
    );
  return [
    f("its archive imported", "imported", Infinity),
    f("opened cold, names shown", "names", 2000),
    f("opened cold, verdicts of the rows in sight", "verdicts", 2000),
    f("opened cold, every board judged", "whole", Infinity),
    f("growth of the page's process until then", "openGrowth", 300, "MB"),
    f("opened warm", "warm", 2000),
    f("Decide", "decide", 2000),
    f("archive exported", "out", 15_000),
    f("growth of the page's process meanwhile", "outGrowth", 300, "MB"),
    ...(all.length > 1
      ? [
          {
            name: "Notebook: largest exponent of a cost",
            unit: "%" as const,
            judged: "most" as const,
            target: 110,
            values: costs.map(
              (k) => 100 * exponent((all[0] as (typeof all)[number]).m[k], (all.at(-1) as (typeof all)[number]).m[k]),
            ),
          },
        ]
      : []),
  ];
}
