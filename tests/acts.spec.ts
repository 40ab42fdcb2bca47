import { logCharge } from "../src/core/rehearsal/charge-log";
import { chargeBench } from "../src/core/simulator";
import { expect, test } from "./helpers";
import type { Locator, Page } from "@playwright/test";

/**
 * What a newcomer has to do, counted: one click, one key outside a field, one field filled with its Enter, one file chosen, one screenful
 * scrolled to see what is clicked or filled next.
 */
class Newcomer {
  acts = 0;
  private readonly told: string[] = [];
  constructor(readonly page: Page) {}

  private async see(target: Locator): Promise<void> {
    await target.waitFor();
    // Screenfuls between what is in sight and what is wanted.
    const box = await target.boundingBox();
    const height = this.page.viewportSize()?.height ?? 800;
    const away =
      box && (box.y < 0 || box.y + box.height > height)
        ? Math.ceil(Math.max(-box.y, box.y + box.height - height) / height)
        : 0;
    if (away) this.count(`${away} scrolled`, away);
  }
  private count(what: string, n = 1): void {
    this.acts += n;
    this.told.push(what);
  }
  async click(target: Locator, what: string): Promise<void> {
    await this.see(target);
    await target.click();
    this.count(what);
  }
  async fill(target: Locator, text: string, what: string): Promise<void> {
    await this.see(target);
    await target.fill(text);
    await target.press("Enter");
    this.count(what);
  }
  async key(key: string, what: string): Promise<void> {
    await this.page.keyboard.press(key);
    this.count(what);
  }
  async file(name: string, text: string): Promise<void> {
    await this.page.getByLabel("Logs to open").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
    this.count(`choose ${name}`);
  }
  /** Fails with all that was done where it was more. */
  atMost(most: number): void {
    expect({ acts: this.acts, done: this.acts <= most ? "" : this.told.join(", ") }).toEqual({
      acts: this.acts,
      done: "",
    });
    this.acts = 0;
    this.told.length = 0;
  }
}

test.use({ viewport: { width: 1280, height: 800 } });

test("the result of a CSV charge log, from an empty profile: two acts", async ({ page }) => {
  const { columns } = logCharge(chargeBench({ cell: { capacity: 0.5 }, soc: 0.5 }), {
    every: 5,
    before: 30,
    after: 120,
    most: 2 * 3600,
    seed: 3,
  }).trace;
  const text = `Elapsed (s),Cell voltage (V),Cell current (A)\n${[...(columns.time ?? [])].map((t, k) => `${t},${columns.cellVoltage?.[k]},${columns.cellCurrent?.[k]}`).join("\n")}\n`;
  await page.goto("/");
  const n = new Newcomer(page);
  // The chooser that the button opens is the system's own: the button is pressed, and the file given to the field behind it.
  const chooser = page.waitForEvent("filechooser");
  await n.click(page.getByRole("button", { name: "Open log" }), "Open log");
  await chooser;
  await n.file("charge.csv", text);
  await expect(page.getByTestId("answer")).toBeInViewport();
  n.atMost(2);
});

/** A board with four claims, from an empty profile. */
async function boardWithClaims(n: Newcomer): Promise<void> {
  const { page } = n;
  await page.goto("/");
  await n.click(page.getByRole("button", { name: "Add board" }), "Add board");
  await n.click(page.getByLabel("boosts to an output"), "boosts");
  await n.fill(page.getByLabel("Name", { exact: true }), "Rush 4", "name");
  for (const [label, text] of [
    ["no-load voltage", "5 V ±5 %"],
    ["highest load held", "≥ 0.8"],
    ["peak efficiency", "≥ 90 %"],
    ["load regulation", "≤ 3 %"],
  ] as const) {
    await n.fill(page.getByLabel(`Claimed ${label}`), text, label);
    await expect(page.getByLabel(`Claimed ${label}`)).toHaveCount(0);
  }
}

test("a board with four claims in at most 14 acts; its first sweep point on the simulated bench in at most 6", async ({
  page,
}) => {
  const n = new Newcomer(page);
  await boardWithClaims(n);
  await expect(page.getByRole("row").filter({ hasText: "90" }).first()).toBeVisible();
  n.atMost(14);
  await n.key("p", "prepare");
  await n.click(page.getByLabel("The simulated bench"), "simulated");
  const dangers = page.getByRole("checkbox", { name: "Danger." });
  expect(await dangers.count()).toBeGreaterThan(0);
  for (const box of await dangers.all()) await n.click(box, "danger");
  await n.click(page.getByRole("button", { name: "Start run" }), "start");
  await expect(page.getByTestId("proposal")).toBeVisible();
  await expect(page.locator(`[data-readout="Output voltage"]`)).toContainText(/\d/, { timeout: 15_000 });
  await n.key("t", "record");
  await expect(page.locator("tr[data-point]")).toHaveCount(1);
  n.atMost(6);
});

test("the first typed sweep point in at most 10 acts from the board", async ({ page }) => {
  const n = new Newcomer(page);
  await boardWithClaims(n);
  n.atMost(14);
  await n.key("p", "prepare");
  await expect(page.getByText("The application watches these")).toBeVisible();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await n.click(box, "danger");
  await n.click(page.getByRole("button", { name: "Start run" }), "start");
  await expect(page.getByTestId("proposal")).toBeVisible();
  for (const [label, text] of [
    ["Battery voltage", "4.1"],
    ["Battery current", "2m"],
    ["Output voltage", "5.03"],
    ["Output current", "0"],
  ] as const)
    await n.fill(page.getByLabel(label, { exact: true }), text, label);
  // The Enter of the last field records the point, once it has stood long enough.
  if ((await page.locator("tr[data-point]").count()) === 0) await n.key("t", "record");
  await expect(page.locator("tr[data-point]")).toHaveCount(1, { timeout: 20_000 });
  n.atMost(10);
});
