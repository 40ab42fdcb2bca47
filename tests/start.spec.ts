import { spawnSync } from "node:child_process";
import { createServer } from "node:net";
import { expect, noSeriousAxe, startDemo, startEmpty, test, writeBoard } from "./helpers";

test("an empty profile offers two ways in, and neither destroys the other", async ({ page }) => {
  await page.goto("/");
  await noSeriousAxe(page);
  await startEmpty(page);
  await writeBoard(page, "Mine");
  await page.getByRole("button", { name: "My notebook" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Load demo" }).click();
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  await page.getByRole("button", { name: "Reed bed recorders (demo)" }).click();
  const dialog = page.getByRole("dialog");
  await noSeriousAxe(page);
  await dialog
    .getByRole("listitem")
    .filter({ hasText: "My notebook" })
    .getByRole("button", { name: "Open", exact: true })
    .click();
  await expect(page.getByRole("heading", { name: "Mine" })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: "Mine" })).toBeVisible();
});

test("nothing of a fresh demo has to be worked out: no worker is started for it", async ({ page }) => {
  let workers = 0;
  page.on("worker", () => workers++);
  await startDemo(page);
  await expect(page.getByRole("list", { name: "Claims of Heath Four" })).toBeVisible();
  await page.waitForTimeout(1000);
  expect(workers).toBe(0);
});

test("the demo holds a board measured in full, one half way, one that fails, one untouched", async ({ page }) => {
  await startDemo(page);
  await expect(page.getByRole("listitem").filter({ hasText: "meets" }).first()).toBeVisible();
  await expect(page.getByRole("link", { name: "Resume: Load sweep" })).toBeVisible();
  await expect(page.getByRole("list", { name: "Claims of Marl 15" })).toContainText("misses");
  await expect(page.getByRole("list", { name: "Claims of Peat Duo" })).toContainText("4not measured");
  await expect(page.getByRole("list", { name: "Claims of Alder 12" })).toContainText("not fairly tested");
});

test("by keyboard: the palette goes to a board, and colours change", async ({ page }) => {
  await startDemo(page);
  await page.keyboard.press("Control+k");
  await expect(page.getByPlaceholder("board, cell, run or action")).toBeFocused();
  await page.keyboard.type("marl");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Marl 15", level: 1 })).toBeVisible();
  await page.keyboard.press("Control+k");
  await expect(page.getByPlaceholder("board, cell, run or action")).toBeFocused();
  await page.keyboard.type("colours: dark");
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});

test("a taken port is said, and no other one is used", async () => {
  const holder = createServer();
  await new Promise<void>((done) => {
    holder.once("error", () => done());
    holder.listen(4680, "localhost", () => done());
  });
  const r = spawnSync(process.execPath, ["scripts/start.mjs", "--demo"], { encoding: "utf8", timeout: 20_000 });
  holder.close();
  expect(r.status).toBe(1);
  expect(r.stderr).toContain("Port 4680 on localhost is taken");
});

test("pages carry a strict policy with a nonce of their own", async ({ request }) => {
  const policies = await Promise.all(
    [1, 2].map(async () => (await request.get("/")).headers()["content-security-policy"] ?? ""),
  );
  expect(policies[0]).toContain("default-src 'none'");
  expect(policies[0]).not.toContain("unsafe");
  expect(policies[0]).not.toBe(policies[1]);
});

test("every file says its type and forbids to guess another; what a page has no use for is not allowed", async ({
  request,
  page,
}) => {
  const statics: string[] = [];
  page.on("response", (r) => statics.push(r.url()));
  await page.goto("/");
  await page.getByRole("button", { name: "Load demo" }).waitFor();
  const own = [...new Set(statics.filter((u) => u.startsWith("http")))];
  expect(own.filter((u) => u.includes("/_next/static/")).length).toBeGreaterThan(3);
  for (const url of [...own, "/demo.json", "/favicon.ico", "/icon.svg", "/no-such-page"])
    expect([url, (await request.get(url)).headers()["x-content-type-options"]]).toEqual([url, "nosniff"]);
  const file = own.find((u) => u.includes("/_next/static/")) ?? "";
  for (const url of ["/", "/compare", "/demo.json", "/board/x", file])
    for (const method of ["POST", "PUT", "DELETE", "PATCH"])
      expect([url, method, (await request.fetch(url, { method })).status()]).toEqual([url, method, 405]);
  expect((await request.fetch("/", { method: "HEAD" })).status()).toBe(200);
});

test("the icon that a browser asks for before it has read the page's own is there", async ({ request }) => {
  const icon = await request.get("/favicon.ico");
  expect(icon.status()).toBe(200);
  expect(icon.headers()["content-type"]).toContain("image/");
});

for (const [how, late, drawn] of [
  ["late", 600, 600],
  ["never", 60_000, 900],
] as const)
  test(`a button that is pressed stays under the pointer: typefaces that come ${how} don't move the page`, async ({
    page,
  }) => {
    await page.route(/\.woff2/, async (route) => {
      await new Promise((resolve) => setTimeout(resolve, late));
      await route.continue().catch(() => undefined);
    });
    const asked = Date.now();
    await page.goto("/", { waitUntil: "commit" });
    const start = page.getByRole("button", { name: "Start empty notebook" });
    await start.waitFor();
    expect(Date.now() - asked).toBeGreaterThan(drawn);
    const box = await start.boundingBox();
    await page.waitForTimeout(600);
    expect(await start.boundingBox()).toEqual(box);
    await page.unrouteAll({ behavior: "ignoreErrors" });
  });
