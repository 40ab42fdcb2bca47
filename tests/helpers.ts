import { test as base, expect, type Locator, type Page } from "@playwright/test";
import AxeBuilder from "@axe-core/playwright";

/** Chooses of a list, by what the choice is called inside, by its label or by its place. */
export async function chooseFrom(
  field: Locator,
  what: string | { readonly label: string } | { readonly index: number },
): Promise<void> {
  await field.click();
  const page = field.page();
  const option =
    typeof what === "string"
      ? page.locator(`[role="option"][data-choice=${JSON.stringify(what)}]`)
      : "label" in what
        ? page.getByRole("option", { name: what.label, exact: true })
        : page.getByRole("option").nth(what.index);
  await option.click();
}

/** Every page is watched: a console error, an uncaught exception or a request to another host fails its test. */
export const test = base.extend<{ watch: string[] }>({
  watch: [
    async ({ context, baseURL }, use, info) => {
      // Meters and boards of the simulated bench are drawn at random; here every run of a test draws the same.
      await context.addInitScript((title) => {
        let state = [...title].reduce((h, c) => Math.imul(h ^ c.charCodeAt(0), 16777619), 2166136261) >>> 0;
        Math.random = () => {
          state = (state + 0x6d2b79f5) >>> 0;
          let t = Math.imul(state ^ (state >>> 15), 1 | state);
          t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
          return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
        };
      }, info.title);
      const trouble: string[] = [];
      const host = new URL(baseURL ?? "").host;
      context.on("request", (r) => {
        const url = new URL(r.url());
        if (/^https?:$/.test(url.protocol) && url.host !== host) trouble.push(`request to ${r.url()}`);
      });
      context.on("response", (r) => {
        if (r.status() >= 400) trouble.push(`${r.status()} for ${r.url()}`);
      });
      context.on("console", (m) => {
        if (m.type() === "error") trouble.push(`console: ${m.text()}`);
      });
      context.on("weberror", (e) => trouble.push(`exception: ${e.error().message}`));
      await use(trouble);
      expect(trouble).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export async function startEmpty(page: Page): Promise<void> {
  await page.goto("/");
  await page.getByRole("button", { name: "Start empty notebook" }).click();
  await expect(page.getByRole("heading", { name: "My notebook" })).toBeVisible();
}

/** Gives the meters of the bench an ordinary handheld's accuracy: without one, results have no uncertainty. */
export async function assumeMeters(page: Page): Promise<void> {
  await page.goto("/instruments");
  await page.getByRole("button", { name: /Assume ordinary handheld meters/ }).click();
  await page.getByRole("button", { name: "Save rig" }).click();
  await expect(page.getByText(/is saved/)).toBeVisible();
  await page.goto("/");
}

export async function startDemo(page: Page): Promise<void> {
  await page.goto("/");
  await page.getByRole("button", { name: "Load demo" }).click();
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
}

/** A boost board with a claimed output and a claimed maximum, by clicks. */
export async function writeBoard(
  page: Page,
  name: string,
  claims: Readonly<Record<string, string>> = { "No-load voltage": "5 V ±5 %", "Highest load held": "≥ 0.8" },
): Promise<void> {
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("boosts to an output").check();
  await page.getByRole("button", { name: "Save board" }).click();
  await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
  for (const [label, text] of Object.entries(claims)) {
    await page.getByLabel(`Claimed ${label.toLowerCase()}`).fill(text);
    await page.getByRole("button", { name: `Save claim on ${label}` }).click();
    await expect(page.getByRole("row").filter({ hasText: label })).toBeVisible();
  }
}

/** A board with these functions and claims, by clicks. */
export async function boardOf(
  page: Page,
  name: string,
  functions: readonly string[],
  claims: Readonly<Record<string, string>>,
): Promise<void> {
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  for (const f of functions) await page.getByLabel(f).check();
  await page.getByRole("button", { name: "Save board" }).click();
  for (const [label, text] of Object.entries(claims)) {
    await page.getByLabel(`Claimed ${label.toLowerCase()}`).fill(text);
    await page.getByRole("button", { name: `Save claim on ${label}` }).click();
    await expect(page.getByRole("row").filter({ hasText: label }).first()).toBeVisible();
  }
}

/** From a board's sheet to the capture screen, every danger ticked. */
export async function startSweep(
  page: Page,
  options: { simulated?: string; dwell?: string; batteries?: string; loads?: string } = {},
): Promise<void> {
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await expect(page.getByText("The application watches these")).toBeVisible();
  if (options.simulated) {
    await page.getByLabel("The simulated bench").check();
    await chooseFrom(page.getByLabel("with this invented module"), { label: options.simulated });
  } else await page.getByLabel("I type readings from my own meters").check();
  if (options.dwell) await page.getByLabel("Dwell before a point counts").fill(options.dwell);
  if (options.batteries) await page.getByLabel("Battery voltages, fullest first").fill(options.batteries);
  if (options.loads) await page.getByLabel("Load currents, from none to past the claim").fill(options.loads);
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
  await expect(page.getByTestId("proposal")).toBeVisible();
}

/** Presses Tab until an element has the focus, as someone without a mouse would. */
export async function tabTo(page: Page, target: Locator, most = 80): Promise<void> {
  for (let k = 0; k < most; k++) {
    if (await target.evaluate((el) => el === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`no ${most} tabs led to ${target.toString()}`);
}

export const verdictOf = (page: Page, wording: string): Locator => page.getByRole("row").filter({ hasText: wording });

/** Chooses from a list by its label and the words of a choice. */
export async function pick(page: Page, label: string, choice: string): Promise<void> {
  await page.getByRole("combobox", { name: label }).click();
  await page.getByRole("option", { name: choice, exact: true }).click();
}

export async function noSeriousAxe(page: Page, rules?: readonly string[]): Promise<void> {
  // No frame of another origin to look into: the findings are gathered in the page itself, and only what is wrong.
  const axe = new AxeBuilder({ page }).options({ resultTypes: ["violations"] }).setLegacyMode();
  const result = await (rules ? axe.withRules([...rules]) : axe).analyze();
  const serious = result.violations.filter((v) => v.impact === "serious" || v.impact === "critical");
  expect(serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`)).toEqual([]);
}

/** Finishes a live log once it has come to its end. */
export const finishLog = (page: Page, timeout = 60_000): Promise<void> =>
  page.locator('button[aria-keyshortcuts="F"]', { hasText: "Finish log" }).click({ timeout });

/** Finishes a live log before its end, which is asked about. */
export async function finishEarly(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Finish log" }).click();
  const asked = page.getByRole("dialog", { name: "Finish before the end?" });
  // It may just have come to its end by itself.
  await expect(asked.or(page.getByRole("heading", { name: "Results" }))).toBeVisible();
  if (await asked.isVisible()) await asked.getByRole("button", { name: "Finish log" }).click();
}
