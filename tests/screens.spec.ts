import { chooseFrom, expect, noSeriousAxe, startDemo, test } from "./helpers";
import type { Page } from "@playwright/test";

/** Every screen there is, from the shelf of the demo. */
const SCREENS: readonly (readonly [name: string, go: (page: Page) => Promise<void>])[] = [
  ["the shelf", async (page) => page.getByRole("heading", { name: "Sedge 51" }).waitFor()],
  [
    "a sheet",
    async (page) => {
      await page.getByRole("link", { name: "Sedge 51" }).first().click();
      await page.getByRole("heading", { name: "Claims and verdicts" }).waitFor();
    },
  ],
  [
    "a verdict",
    async (page) => {
      await page.getByRole("link", { name: "Sedge 51" }).first().click();
      await page
        .getByRole("link", { name: /: why$/ })
        .first()
        .click();
      await page.getByRole("heading", { name: "Measured against the limit" }).first().waitFor();
    },
  ],
  [
    "a result",
    async (page) => {
      await page.getByRole("link", { name: "Sedge 51" }).first().click();
      await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
      await page.locator("[data-chart] [data-curve]").first().waitFor();
    },
  ],
  [
    "put to use",
    async (page) => {
      await page.goto("/use");
      await page.getByRole("table", { name: "Boards for this load" }).waitFor();
    },
  ],
  [
    "a charger's feed",
    async (page) => {
      await page.goto("/feed");
      await page.getByRole("table", { name: "Stages of the feed" }).waitFor();
    },
  ],
  [
    "a station",
    async (page) => {
      await page.goto("/station");
      await page.getByRole("heading", { name: "It works" }).waitFor();
    },
  ],
  [
    "a station at work",
    async (page) => {
      await page.goto("/station");
      await page.getByRole("link", { name: "Shed bench" }).click();
      await page.locator("[data-bay='1']").waitFor();
      await page.keyboard.insertText("Float 7");
      await page.keyboard.press("Enter");
      await page.getByTestId("scanned").waitFor();
    },
  ],
  [
    "packs",
    async (page) => {
      await page.goto("/cells/packs");
      await page.getByRole("button", { name: /^Match/ }).click();
      await page.getByTestId("pack-sums").first().waitFor();
    },
  ],
  [
    "cells in columns",
    async (page) => {
      await page.goto("/cells");
      await page.getByRole("tab", { name: "Columns" }).click();
      await page.locator("[data-card]").first().waitFor();
    },
  ],
  [
    "logs under way",
    async (page) => {
      await page.goto("/logs");
      await page.getByText("No log is under way.").waitFor();
    },
  ],
  [
    "the day",
    async (page) => {
      await page.goto("/day");
      await page.getByTestId("next-act").waitFor();
      await page.getByRole("button", { name: "Plan another day" }).click();
      await page.getByRole("button", { name: "Plan day" }).waitFor();
    },
  ],
  [
    "preparing",
    async (page) => {
      await page.getByRole("link", { name: "Peat Duo" }).first().click();
      await page.getByRole("button", { name: "Prepare a load sweep" }).click();
      await page.getByText("The application watches these").waitFor();
    },
  ],
  [
    "capture",
    async (page) => {
      await page.getByRole("link", { name: "Resume: Load sweep" }).click();
      await page.locator("[data-chart] [data-curve]").first().waitFor();
    },
  ],
  [
    "an import",
    async (page) => {
      await page.getByRole("link", { name: "Peat Duo" }).first().click();
      await page.getByRole("link", { name: "Import CSV", exact: true }).first().click();
      await page.getByLabel("CSV to import").setInputFiles({
        name: "t.csv",
        mimeType: "text/csv",
        buffer: Buffer.from("Vb (V),Ib (A),Vout (V),Iout (A)\n4.1,0.002,5.03,0\n4.1,0.28,5.02,0.2\n"),
      });
      await page.getByLabel("Decimal sign").waitFor();
    },
  ],
  [
    "a charge in preparation",
    async (page) => {
      await page.getByRole("link", { name: "Alder 12" }).first().click();
      await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
      await page.getByRole("radio", { name: /Reed 2200/ }).check();
      await page.getByLabel("Cell voltage now, rested and not connected").fill("3.3");
      await page.getByText("total, about").waitFor();
      await page.getByText("Another current: programming resistor").click();
      await page.getByLabel("K from the data sheet").fill("870");
    },
  ],
  [
    "a charge under way",
    async (page) => {
      await page.getByRole("link", { name: "Alder 12" }).first().click();
      await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
      await page.getByRole("radio", { name: /Reed 2200/ }).check();
      await page.getByLabel("Cell voltage now, rested and not connected").fill("3.3");
      await page.getByLabel("The simulated bench").check();
      for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
      await page.getByRole("button", { name: "Start the log" }).click();
      await chooseFrom(page.getByLabel("Bench clock"), "60");
      await page.locator("[data-chart] [data-curve]").first().waitFor();
      await page
        .getByLabel("Events")
        .getByText(/Charging begins/)
        .waitFor();
    },
  ],
  [
    "two charges side by side",
    async (page) => {
      await page.getByRole("link", { name: "Alder 12" }).first().click();
      await page.getByRole("link", { name: "Charge on a short cable" }).click();
      await chooseFrom(page.getByRole("combobox", { name: "Beside" }), { index: 1 });
      await page.locator('[data-chart="current-over"] [data-curve]').first().waitFor();
    },
  ],
  [
    "the cell drawer",
    async (page) => {
      await page.goto("/cells");
      await page.getByRole("heading", { name: "Read cells" }).waitFor();
    },
  ],
  [
    "a cell",
    async (page) => {
      await page.goto("/cells");
      await page.getByRole("link", { name: "Torch 2" }).first().click();
      await page.locator("[data-chart]").first().waitFor();
    },
  ],
  [
    "a checklist",
    async (page) => {
      await page.getByRole("link", { name: "Peat Duo", exact: true }).click();
      await page.getByRole("button", { name: "Prepare a behaviour checklist" }).click();
      await page.getByLabel("The simulated bench").check();
      for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
      await page.getByRole("button", { name: "Start the checklist" }).click();
      await page.getByTestId("act").waitFor();
    },
  ],
  [
    "a findings sheet",
    async (page) => {
      await page.getByRole("link", { name: "Marl 15", exact: true }).click();
      await page.getByRole("link", { name: "Findings sheet" }).click();
      await page.locator("[data-chart]").first().waitFor();
    },
  ],
  [
    "quick sums",
    async (page) => {
      await page.goto("/sums");
      await page.getByRole("heading", { name: "Wire drop" }).waitFor();
    },
  ],
  [
    "instruments",
    async (page) => {
      await page.goto("/instruments");
      await page.getByRole("heading", { name: "Rigs", exact: true }).waitFor();
    },
  ],
  [
    "an instrument being changed",
    async (page) => {
      await page.goto("/instruments");
      await page.getByRole("button", { name: "Edit Plover A" }).click();
      await page.getByRole("dialog").getByText("Ranges").waitFor();
    },
  ],
  [
    "a need and the boards",
    async (page) => {
      await page.goto("/decide");
      await page.getByRole("heading", { name: "Buy, modify or build" }).waitFor();
    },
  ],
  [
    "a need being changed",
    async (page) => {
      await page.goto("/decide");
      await page.getByRole("button", { name: "Edit need" }).click();
      await page.getByRole("dialog").getByRole("group", { name: "Requirement 9" }).waitFor();
    },
  ],
  [
    "curves laid over",
    async (page) => {
      await page.goto("/curves");
      await page.getByLabel(/Find runs/).fill("load sweep");
      await page.getByRole("checkbox", { name: /^Marl 15 sample A: Load sweep, \d/ }).check();
      await page.locator("[data-chart]").first().waitFor();
    },
  ],
  [
    "comparison",
    async (page) => {
      await page.goto("/compare");
      await page.getByRole("tab", { name: "Claims" }).waitFor();
    },
  ],
  [
    "a close call worked through",
    async (page) => {
      await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
      await page.getByRole("link", { name: "too close to call: why" }).first().click();
      await page.getByRole("button", { name: "What would settle this?" }).first().click();
      await page.getByText(/What would settle this, with the same/).waitFor();
    },
  ],
  [
    "house rules",
    async (page) => {
      await page.goto("/rules");
      await page.getByRole("heading", { name: "House rules", level: 1 }).waitFor();
    },
  ],
];

// A screen is gone to once for both colour schemes; the halves of the walk and the phone's run beside each other.
test.describe.configure({ mode: "parallel" });
/** The rules whose answer depends on the colours; all others see the same page in both schemes. */
const COLOUR_RULES = ["color-contrast", "link-in-text-block"];
const HALF = Math.ceil(SCREENS.length / 2);
for (const [part, screens] of [SCREENS.slice(0, HALF), SCREENS.slice(HALF)].entries())
  test(`every screen is accessible in the light and in the dark, part ${part + 1} of 2`, async ({ page }) => {
    test.setTimeout(300_000);
    await startDemo(page);
    for (const [name, go] of screens)
      await test.step(name, async () => {
        await page.goto("/");
        await go(page);
        await noSeriousAxe(page);
        await page.emulateMedia({ colorScheme: "dark" });
        await expect(page.locator("html"), `${name} is drawn dark`).toHaveAttribute("data-theme", "dark");
        await noSeriousAxe(page, COLOUR_RULES);
        await page.emulateMedia({ colorScheme: "light" });
        await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
      });
  });

test("no screen is wider than a phone, and none hides its main button", async ({ page }) => {
  test.setTimeout(300_000);
  await page.setViewportSize({ width: 390, height: 844 });
  await startDemo(page);
  for (const [name, go] of SCREENS)
    await test.step(name, async () => {
      await page.goto("/");
      await go(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), name).toBeLessThanOrEqual(390);
      for (const button of await page.getByRole("button").all()) {
        const box = await button.boundingBox();
        if (box && (await button.evaluate((el) => !el.closest(".overflow-x-auto"))))
          expect(box.x + box.width, `${name}: ${await button.innerText()}`).toBeLessThanOrEqual(391);
      }
    });
});

test("the capture screen stands whole at 1280 × 800", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Resume: Load sweep" }).click();
  await page.locator("[data-chart] [data-curve]").first().waitFor();
  expect(await page.evaluate(() => document.documentElement.scrollHeight)).toBeLessThanOrEqual(800);
  for (const name of ["Record point", "Undo point", "Exclude point", "Record when steady"])
    await expect(page.getByRole("button", { name: new RegExp(`^${name}( [A-Z])?$`) })).toBeInViewport();
});

test("an address that leads nowhere is answered, and leads back", async ({ page }) => {
  await startDemo(page);
  for (const path of [
    "/board/none",
    "/board/none/sheet",
    "/board/none/sheet/none",
    "/run/none/checklist",
    "/run/none/review",
    "/run/none/capture",
    "/run/none/prepare",
    "/board/none/claim/none",
    "/board/none/import",
  ]) {
    await page.goto(path);
    await expect(page.getByText(/No such (board|run|claim|sheet) in this browser/)).toBeVisible();
    await expect(page.getByRole("link", { name: "Nimbus Bench" })).toBeVisible();
  }
});

test("a page that was never there is answered by the application itself", async ({ page, watch }) => {
  await startDemo(page);
  await page.goto("/nowhere/at/all");
  await expect(page.getByRole("heading", { name: "No such page" })).toBeVisible();
  await noSeriousAxe(page);
  await page.getByRole("link", { name: "All boards" }).click();
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  // The one answer that is meant to be a 404.
  expect(watch.splice(0).every((t) => t.includes("404"))).toBe(true);
});

test("a part that can't be fetched is said where it would stand, and a reload goes on", async ({ page, watch }) => {
  await startDemo(page);
  await page.route("**/_next/static/chunks/*.js", (route) => route.abort());
  await page.getByRole("link", { name: "Instruments", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Part of the application can't be loaded" })).toBeVisible();
  await expect(page.locator("main").getByRole("alert")).toContainText("Your readings are safe in this browser.");
  await noSeriousAxe(page);
  await page.unroute("**/_next/static/chunks/*.js");
  await page.getByRole("button", { name: "Reload" }).click();
  await expect(page.getByLabel("Battery leads, both wires")).toBeVisible();
  expect(watch.splice(0).length).toBeGreaterThan(0);
});

test("printed, a result is black on white without buttons", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51" }).first().click();
  await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
  await page.locator("[data-chart] [data-curve]").first().waitFor();
  await page.emulateMedia({ media: "print", colorScheme: "dark" });
  await expect(page.getByRole("button", { name: "Export CSV" })).toBeHidden();
  expect(await page.locator(".sheet").evaluate((el) => getComputedStyle(el).color)).toBe("rgb(20, 38, 46)");
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  expect(await page.locator(".sheet").evaluate((el) => getComputedStyle(el).backgroundColor)).toBe(
    "rgb(255, 255, 255)",
  );
});
