import { characteristic, usualClaims, type Characteristic } from "../characteristics";
import { formatLimit, limitBounds, parseConditionSpec, parseLimit, readingText } from ".";

const entry = (name: string): Characteristic => characteristic(name) as Characteristic;
const amps = entry("boost.max-current");
const volts = entry("boost.no-load-voltage");

describe("a limit as people write it", () => {
  test.each([
    ["5 V ±2 %", volts, { kind: "nominal", nominal: 5, tolerance: { kind: "relative", value: 0.02 } }],
    ["5V +/- 50m", volts, { kind: "nominal", nominal: 5, tolerance: { kind: "absolute", value: 0.05 } }],
    ["5 V", volts, { kind: "nominal", nominal: 5, tolerance: null }],
    ["1 A", amps, { kind: "at-least", low: 1 }],
    ["up to 1.3 A", amps, { kind: "at-least", low: 1.3 }],
    ["94%", entry("boost.peak-efficiency"), { kind: "at-least", low: 0.94 }],
    ["3 %", entry("boost.load-regulation"), { kind: "at-most", high: 0.03 }],
    ["up to 150u", entry("standby.current"), { kind: "at-most", high: 1.5e-4 }],
    ["about 1 A", amps, { kind: "nominal", nominal: 1, tolerance: null }],
    ["typ. 94 %", entry("boost.peak-efficiency"), { kind: "nominal", nominal: 0.94, tolerance: null }],
    ["up to 5.2 V", volts, { kind: "at-most", high: 5.2 }],
    ["4.5–5.5 V", volts, { kind: "from-to", low: 4.5, high: 5.5 }],
    ["200 to 300 mA", amps, { kind: "from-to", low: 0.2, high: 0.3 }],
    ["≥ 1A5", amps, { kind: "at-least", low: 1.5 }],
    ["at least 1,5", amps, { kind: "at-least", low: 1.5 }],
    ["max 150u", entry("standby.current"), { kind: "at-most", high: 1.5e-4 }],
    ["yes", entry("protect.short-present"), { kind: "yes-no", value: true }],
    [
      "automatic or load-removal",
      entry("protect.short-recovery"),
      { kind: "one-of", words: ["automatic", "load-removal"] },
    ],
  ] as const)("%s", (text, c, expected) => {
    const r = parseLimit(text, c);
    expect(
      r.ok &&
        JSON.parse(JSON.stringify(r.value, (_k, v: unknown) => (typeof v === "number" ? Number(v.toPrecision(9)) : v))),
    ).toEqual(expected);
  });

  test.each([
    ["", volts, /Empty/],
    ["3 A", volts, /takes volts/],
    ["5.5–4.5 V", volts, /backwards/],
    ["maybe", entry("protect.short-present"), /neither yes nor no/],
    ["sometimes", entry("protect.short-recovery"), /is none of automatic/],
    ["5 V ± -2 %", volts, /can't be negative/],
  ] as const)("%s is refused with the reason", (text, c, reason) => {
    const r = parseLimit(text, c);
    expect(r.ok ? "read" : r.error).toMatch(reason);
  });

  test("written out, every form reads back as itself", () => {
    for (const text of ["5 V ± 2 %", "at least 1.5 V", "at most 1.5 V", "4.5 V to 5.5 V", "5 V"]) {
      const first = parseLimit(text, volts);
      const again = first.ok ? parseLimit(formatLimit(first.value, "V"), volts) : first;
      expect(again).toEqual(first);
    }
  });
});

test("±0.9 % of 4.2 V is 4.1622 to 4.2378 V", () => {
  const b = limitBounds({ kind: "nominal", nominal: 4.2, tolerance: { kind: "relative", value: 0.009 } }, 0.05);
  expect(b?.low).toBeCloseTo(4.1622, 9);
  expect(b?.high).toBeCloseTo(4.2378, 9);
});

test("conditions are values, ranges or words", () => {
  expect(parseConditionSpec("3,6 V", "battery")).toEqual({ ok: true, value: { at: 3.6 } });
  expect(parseConditionSpec("3–4.2 V", "battery")).toEqual({ ok: true, value: { from: 3, to: 4.2 } });
  expect(parseConditionSpec("J1 open", "configuration")).toEqual({ ok: true, value: { word: "J1 open" } });
  expect(parseConditionSpec(" ", "battery")).toEqual({ ok: true, value: null });
  expect(parseConditionSpec("three", "battery").ok).toBe(false);
});

test("the functions of a board decide which claims are offered", () => {
  const names = usualClaims(["boost"]).map((c) => c.name);
  expect(names).toContain("boost.max-current");
  expect(names).not.toContain("charge.cc-current");
  expect(usualClaims([])).toEqual([]);
});

test("a reading in words", () => {
  expect(
    readingText({
      characteristic: "boost.max-current",
      limit: { kind: "at-least", low: 1 },
      conditions: { battery: { from: 3, to: 4.2 } },
    }),
  ).toBe("Highest load held: at least 1\u00a0A, at battery voltage 3\u00a0V to 4.2\u00a0V");
});
