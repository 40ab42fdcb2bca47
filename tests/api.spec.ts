import { request as httpRequest } from "node:http";
import { test, expect } from "@playwright/test";

/** A discharge of so many rows, as a logger writes it. */
function longLog(rows: number): Buffer {
  const lines = [
    "Elapsed (s),Battery voltage (V),Battery current (A),Output voltage (V),Load current (A),Part temperature (degC)",
  ];
  for (let k = 0; k < rows; k++)
    lines.push(`${k},${(4.1 - k * 1e-7).toFixed(4)},0.${(2700 + (k % 7)).toString()},5.0${k % 10},0.2000,31.${k % 10}`);
  return Buffer.from(lines.join("\n"));
}

test("a log of 63 MB is analysed whole behind the server, one of 65 MB is refused, and a body cut short is no result", async ({
  request,
  baseURL,
}) => {
  test.setTimeout(180_000);
  const long = longLog(1_725_000);
  const megabytes = long.length / (1 << 20);
  expect(megabytes).toBeGreaterThan(60);
  expect(megabytes).toBeLessThan(63.9);
  const setup = {
    procedure: "heat-soak",
    columns: {
      time: { header: "Elapsed (s)", unit: "s" },
      partTemperature: { header: "Part temperature (degC)", unit: "degC" },
    },
    conditions: { ambientTemperature: 22 },
    instruments: {},
  };
  const whole = await request.post("/api/analyse", {
    multipart: { setup: JSON.stringify(setup), log: { name: "long.csv", mimeType: "text/csv", buffer: long } },
    timeout: 120_000,
  });
  expect([whole.status(), ((await whole.json()) as { procedure?: string }).procedure]).toEqual([200, "heat-soak"]);
  const more = await request.post("/api/analyse", {
    multipart: {
      log: { name: "long.csv", mimeType: "text/csv", buffer: Buffer.concat([long, Buffer.alloc(4 << 20, 0x30)]) },
    },
    timeout: 120_000,
  });
  expect([more.status(), await more.json()]).toEqual([
    413,
    { where: "body", found: "It has more than 64 MB.", remedy: expect.any(String) },
  ]);
  // Promised a thousand bytes, sent a hundred, and hung up: whatever comes back is no result.
  const cut = await new Promise<number | null>((resolve) => {
    const r = httpRequest(
      `${baseURL}/api/analyse`,
      { method: "POST", headers: { "content-type": "multipart/form-data; boundary=x", "content-length": 1000 } },
      (res) => resolve(res.statusCode ?? null),
    );
    r.on("error", () => resolve(null));
    r.write(Buffer.alloc(100, 0x61));
    setTimeout(() => r.destroy(), 300);
  });
  expect(cut === null || cut === 400).toBe(true);
  expect(await (await request.get("/api/health")).json()).toMatchObject({ status: "ok" });
});

test("the routes answer as they say, and the interface calls none of them", async ({ request, page }) => {
  const health = await request.get("/api/health");
  expect([
    health.status(),
    health.headers()["x-content-type-options"],
    health.headers()["content-security-policy"],
  ]).toEqual([200, "nosniff", "default-src 'none'"]);
  expect((await request.get("/api/schemas/run")).headers()["content-type"]).toMatch(/schema\+json/);
  expect((await request.get("/api/schemas/none")).status()).toBe(404);
  expect((await request.get("/api/analyse")).status()).toBe(405);
  expect((await request.fetch("/api/health", { method: "OPTIONS" })).status()).toBe(405);
  expect((await request.get("/api/health", { headers: { origin: "https://elsewhere.example" } })).status()).toBe(403);
  expect((await request.get("/api/health", { headers: { host: "elsewhere.example" } })).status()).toBe(403);
  const asked: string[] = [];
  page.on("request", (r) => asked.push(new URL(r.url()).pathname));
  await page.goto("/");
  await page.getByRole("button", { name: "Load demo" }).click();
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  expect(asked.filter((p) => p.startsWith("/api"))).toEqual([]);
});
