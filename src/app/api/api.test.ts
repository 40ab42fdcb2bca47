import { strToU8 } from "fflate";
import * as analyse from "./analyse/route";
import * as health from "./health/route";
import * as schemas from "./schemas/[name]/route";

const SWEEP =
  "Battery voltage (V),Battery current (A),Output voltage (V),Load current (A)\n4.1,0.003,5.03,0\n4.1,0.272,5.02,0.2\n4.1,0.69,5.01,0.5\n4.1,1.39,5.00,1\n";
const SETUP = {
  procedure: "load-sweep",
  title: "Board",
  columns: {
    batteryVoltage: { header: "Battery voltage (V)", unit: "V" },
    batteryCurrent: { header: "Battery current (A)", unit: "A" },
    outputVoltage: { header: "Output voltage (V)", unit: "V" },
    outputCurrent: { header: "Load current (A)", unit: "A" },
  },
  conditions: { nominalOutput: 5 },
  instruments: {},
};
const log = (text: string = SWEEP): File => new File([strToU8(text)], "sweep.csv", { type: "text/csv" });
type Fields = readonly (readonly [name: string, value: string | File])[];

/** A request as a script sends it: with its length, from this machine. */
async function post(
  fields: Fields,
  headers: Readonly<Record<string, string>> = {},
  cut = 0,
): Promise<{ status: number; body: Record<string, unknown> }> {
  const form = new FormData();
  for (const [name, value] of fields) form.append(name, value);
  const whole = new Response(form);
  const bytes = new Uint8Array(await whole.arrayBuffer());
  const sent = bytes.slice(0, bytes.length - cut);
  const response = await analyse.POST(
    new Request("http://localhost:4680/api/analyse", {
      method: "POST",
      body: sent,
      headers: {
        host: "localhost:4680",
        "content-type": whole.headers.get("content-type") ?? "",
        "content-length": String(bytes.length),
        ...headers,
      },
    }),
  );
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}
const get = (path: string, headers: Readonly<Record<string, string>> = {}): Request =>
  new Request(`http://localhost:4680${path}`, { headers: { host: "localhost:4680", ...headers } });

describe("POST /api/analyse", () => {
  test("gives what the command line gives: with a set-up, and told from the log itself", async () => {
    const said = await post([
      ["setup", JSON.stringify(SETUP)],
      ["log", log()],
    ]);
    expect(said.status).toBe(200);
    expect(said.body).toMatchObject({
      procedure: "load-sweep",
      findings: expect.arrayContaining([
        expect.objectContaining({
          characteristic: "boost.max-current",
          value: 1,
          bound: "at-least",
          conditions: { battery: 4.1 },
        }),
      ]),
    });
    const told = await post([["log", log()]]);
    expect([told.status, told.body.procedure, (told.body.guess as { procedure: string }).procedure]).toEqual([
      200,
      "load-sweep",
      "load-sweep",
    ]);
  });
  test.each<[string, Fields, number, RegExp, RegExp]>([
    ["no log", [["setup", "{}"]], 400, /^log$/, /missing/],
    ["a log that is text", [["log", SWEEP]], 400, /^log$/, /not a file/],
    [
      "a set-up after the log",
      [
        ["log", log()],
        ["setup", "{}"],
      ],
      400,
      /^setup$/,
      /after the log/,
    ],
    ["a field that is not known", [["file", log()]], 400, /^file$/, /No such field/],
    [
      "a field twice",
      [
        ["setup", "{}"],
        ["setup", "{}"],
        ["log", log()],
      ],
      400,
      /^setup$/,
      /twice/,
    ],
    [
      "a set-up that is no JSON",
      [
        ["setup", "{"],
        ["log", log()],
      ],
      422,
      /^setup$/,
      /not valid JSON/,
    ],
    [
      "a procedure that is not known",
      [
        ["setup", JSON.stringify({ ...SETUP, procedure: "sweeping" })],
        ["log", log()],
      ],
      422,
      /^setup$/,
      /“sweeping” can't be analysed; known: /,
    ],
    [
      "bad rows",
      [
        ["setup", JSON.stringify(SETUP)],
        ["log", log(SWEEP.replace("0.69", "o.69"))],
      ],
      422,
      /^log$/,
      /Line 4/,
    ],
    ["a log that says nothing", [["log", log("a,b\n1,2\n")]], 422, /^log$/, /What was measured is unknown/],
  ])("%s is refused with where, what and the remedy", async (_, fields, status, where, found) => {
    const r = await post(fields);
    expect([r.status, Object.keys(r.body)]).toEqual([status, ["where", "found", "remedy"]]);
    expect(r.body.where).toMatch(where);
    expect(r.body.found).toMatch(found);
    expect(String(r.body.remedy).length).toBeGreaterThan(5);
  });
  test("bad rows are skipped where that is asked for", async () => {
    const r = await post([
      ["setup", JSON.stringify(SETUP)],
      ["skipBadRows", "yes"],
      ["log", log(SWEEP.replace("0.69", "o.69"))],
    ]);
    expect([r.status, JSON.stringify(r.body.notes)]).toEqual([200, expect.stringMatching(/skipped/i)]);
  });
  test("fewer bytes than promised are never a result, wherever they end", async () => {
    for (const cut of [1, 2, 5, 40, 200])
      expect([cut, (await post([["log", log()]], {}, cut)).status]).toEqual([cut, 400]);
  });
  test("more than 64 MB is refused before it is read, and as it comes", async () => {
    expect((await post([["log", log()]], { "content-length": String(64 * 1024 * 1024 + 1) })).status).toBe(413);
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull: (c) => {
        sent += 1 << 20;
        c.enqueue(new Uint8Array(1 << 20));
      },
    });
    const r = await analyse.POST(
      new Request("http://localhost:4680/api/analyse", {
        method: "POST",
        body: endless,
        duplex: "half",
        headers: { host: "localhost:4680", "content-type": "multipart/form-data; boundary=x" },
      } as RequestInit),
    );
    expect([r.status, sent < 80 * 1024 * 1024]).toEqual([413, true]);
  });
  test("another host's name and another origin get 403; a page of this one, and none, are answered", async () => {
    const foreign: readonly Record<string, string>[] = [
      { host: "bench.example:4680" },
      { host: "127.0.0.1.example" },
      { host: "" },
      { origin: "https://elsewhere.example" },
      { origin: "null" },
      { origin: "http://localhost:9" },
    ];
    const own: readonly Record<string, string>[] = [
      { host: "127.0.0.1:4680" },
      { host: "[::1]:4680" },
      { host: "LOCALHOST" },
      { origin: "http://localhost:4680" },
    ];
    for (const headers of foreign)
      expect([headers, (await post([["log", log()]], headers)).status]).toEqual([headers, 403]);
    for (const headers of own)
      expect([headers, (await post([["log", log()]], headers)).status]).toEqual([headers, 200]);
  });
  test("a body that is no form is refused", async () => {
    const r = await analyse.POST(
      new Request("http://localhost:4680/api/analyse", {
        method: "POST",
        body: SWEEP,
        headers: { host: "localhost:4680", "content-type": "text/csv" },
      }),
    );
    expect([r.status, await r.json()]).toEqual([400, expect.objectContaining({ where: "Content-Type" })]);
  });
});

test("schemas of records, manifests, set-ups and questions; a name that is none lists those there are", async () => {
  const schema = async (name: string) =>
    schemas.GET(get(`/api/schemas/${name}`), { params: Promise.resolve({ name }) });
  for (const name of ["run", "run.json", "cell", "pack", "day", "manifest", "setup", "question-fit"]) {
    const r = await schema(name);
    expect([name, r.status, ((await r.json()) as { type: string }).type]).toEqual([name, 200, "object"]);
  }
  const none = await schema("nothing");
  expect([none.status, await none.json()]).toEqual([
    404,
    { where: "name", found: "There is no schema “nothing”.", remedy: expect.stringContaining("setup") },
  ]);
  expect(
    (await schemas.GET(get("/api/schemas/run", { host: "elsewhere" }), { params: Promise.resolve({ name: "run" }) }))
      .status,
  ).toBe(403);
});

test("health, and 405 for what an address has no use for", async () => {
  expect(await health.GET(get("/api/health")).json()).toMatchObject({ status: "ok", schema: expect.any(Number) });
  for (const r of [analyse.GET(), analyse.PUT(), analyse.OPTIONS(), health.POST(), schemas.DELETE()])
    expect([r.status, Object.keys((await r.json()) as object), r.headers.get("allow") !== null]).toEqual([
      405,
      ["where", "found", "remedy"],
      true,
    ]);
});
