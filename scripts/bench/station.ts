import type { Page } from "@playwright/test";
import { freshProfile } from "./profile";
import type { Figure } from "./report";

const BAYS = 150;
/** Bays that charge before the first scan is timed, and scans that are. */
const TAKEN = 110;
const SCANS = 40;

interface Clock {
  pressed: number;
  shown: number;
}

/** Runs in the page: notes when Enter went down and when a change showed, after paint. */
function watchPage(): void {
  const clock = { pressed: 0, shown: 0 };
  Object.assign(window, { benchClock: clock });
  window.addEventListener(
    "keydown",
    (e) => e.key === "Enter" && Object.assign(clock, { pressed: performance.now(), shown: 0 }),
    { capture: true },
  );
  let before = "";
  const look = () => {
    const now = `${document.querySelector('[data-testid="scanned"]')?.textContent?.slice(0, 20) ?? ""}|${document.querySelectorAll('[data-bay][data-state="charging"]').length}`;
    if (now === before) return;
    before = now;
    requestAnimationFrame(() => {
      const c = new MessageChannel();
      c.port1.onmessage = () => {
        if (clock.pressed && !clock.shown) clock.shown = performance.now();
      };
      c.port2.postMessage(null);
    });
  };
  new MutationObserver(look).observe(document, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ["data-state"],
  });
}

const elapsed = async (page: Page): Promise<number> => {
  await page.waitForFunction(() => (window as unknown as { benchClock: Clock }).benchClock.shown > 0);
  const clock = await page.evaluate(() => (window as unknown as { benchClock: Clock }).benchClock);
  return clock.shown - clock.pressed;
};

/** A station of 150 bays that is filled by scanned codes: from the Enter of a code to its cell on the screen, from that of a bay to its row. */
export async function stationFigures(url: string): Promise<Figure[]> {
  const page = await (await freshProfile()).newPage();
  await page.addInitScript("globalThis.__name = (f) => f");
  await page.addInitScript(watchPage);
  await page.goto(url);
  await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
  await page.goto(`${url}cells`);
  await page.getByRole("button", { name: "Take in cells" }).click();
  await page.getByRole("textbox", { name: "Cells" }).fill(`${TAKEN + SCANS} x Buoy; 2200 mAh`);
  await page.getByRole("button", { name: `Add ${TAKEN + SCANS} cells` }).click();
  const rows = page.locator('[data-cell^="Buoy"]');
  await rows.nth(TAKEN + SCANS - 1).waitFor({ state: "attached" });
  const codes = await rows.evaluateAll((list) => list.map((r) => r.querySelector(".figures")?.textContent ?? ""));
  await page.goto(`${url}station`);
  await page.getByLabel("Bays", { exact: true }).fill(String(BAYS));
  await page.getByRole("button", { name: "Save station" }).click();
  const code = page.getByLabel("Code of a cell");
  const found: number[] = [];
  const started: number[] = [];
  for (const [k, c] of codes.entries()) {
    await code.waitFor();
    await page.waitForFunction(() => document.activeElement?.getAttribute("placeholder") === "scan or type");
    await page.keyboard.insertText(c);
    if (k >= TAKEN) await page.waitForTimeout(300);
    await page.keyboard.press("Enter");
    const shown = await elapsed(page);
    await page.waitForFunction(
      () =>
        document.activeElement?.getAttribute("inputmode") === "text" ||
        document.activeElement?.hasAttribute("data-number"),
    );
    if (k >= TAKEN) await page.waitForTimeout(300);
    await page.keyboard.press("Enter");
    const charging = await elapsed(page);
    if (k < TAKEN) continue;
    found.push(shown);
    started.push(charging);
  }
  await page.context().close();
  return [
    {
      name: `Station of ${BAYS} bays: scanned code to its cell shown`,
      unit: "ms",
      judged: "p95",
      target: 100,
      values: found,
    },
    {
      name: `Station of ${BAYS} bays: bay confirmed to its row shown, stored`,
      unit: "ms",
      judged: "p95",
      target: 100,
      values: started,
    },
  ];
}
