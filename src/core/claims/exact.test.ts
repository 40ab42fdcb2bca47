import fc from "fast-check";
import { CHARACTERISTICS, characteristic, type Characteristic } from "../characteristics";
import { exactText, parseQuantity, type Unit } from "../quantities";
import { conditionText, limitText, parseConditionSpec, parseLimit, type Limit } from ".";

const SEED = 20261128;

test.each<[number, Unit, string]>([
  [4.1875, "V", "4.1875 V"],
  [1500, "s", "25 min 00 s"],
  [8820, "s", "2 h 27 min"],
  [1500.5, "s", "1500.5 s"],
  [0.24, "A", "240 mA"],
  [0.0333, "A", "33.3 mA"],
  [0.0123, "1", "1.23 %"],
  [-0.5, "°C", "−0.5 °C"],
  [0, "V", "0 V"],
  [1e-7, "A", "100 nA"],
])("%p %s is written %s in a field, and reads back as the same number", (value, unit, text) => {
  expect(exactText(value, unit).replace(/\u00a0/g, " ")).toBe(text);
  expect(parseQuantity(text, unit)).toMatchObject({ ok: true, value: { value } });
});

test(`any number reads back as itself from the text of its field (seed ${SEED})`, () => {
  fc.assert(
    fc.property(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.constantFrom<Unit>("V", "A", "W", "Ω", "s", "Ah", "1", "°C", "K/W"),
      (raw, unit) => {
        const value = raw === 0 ? 0 : raw;
        const r = parseQuantity(exactText(value, unit), unit);
        return r.ok && r.value.value === value;
      },
    ),
    { seed: SEED, numRuns: 2000 },
  );
});

test("a duration is read as it is shown, and nonsense is not", () => {
  for (const [text, seconds] of [
    ["25 min 00 s", 1500],
    ["2 h 27 min", 8820],
    ["1 h", 3600],
    ["135 d", 135 * 86400],
    ["90", 90],
    ["1,5 h", 5400],
  ] as const)
    expect(parseQuantity(text, "s")).toMatchObject({ ok: true, value: { value: seconds } });
  for (const text of ["27 min 2 h", "min", "5 min 3"]) expect(parseQuantity(text, "s").ok).toBe(false);
});

const limits: readonly Limit[] = [
  { kind: "nominal", nominal: 4.1875, tolerance: null },
  { kind: "nominal", nominal: 4.1875, tolerance: { kind: "relative", value: 0.0123 } },
  { kind: "nominal", nominal: 4.1875, tolerance: { kind: "absolute", value: 0.012345 } },
  { kind: "at-least", low: 0.123456789 },
  { kind: "at-most", high: 1234.5678 },
  { kind: "from-to", low: 0.1111111, high: 3.3333333 },
];
const numbers = CHARACTERISTICS.filter((c) => c.kind === "number" && c.unit !== "count" && c.unit !== "");

test.each(numbers.map((c) => [c.name, c] as const))(
  "a claim on %s keeps its limit exactly when its wording is edited",
  (_, c) => {
    for (const limit of limits)
      expect([limitText(limit, c), parseLimit(limitText(limit, c), c)]).toEqual([
        limitText(limit, c),
        { ok: true, value: limit },
      ]);
  },
);

test("a condition reads back as it was", () => {
  for (const [name, spec] of [
    ["battery", { at: 3.71234 }],
    ["load", { from: 0.0123456, to: 0.5 }],
    ["ambient", { at: -10 }],
    ["channel", { at: 2 }],
    ["state", { word: "auto-off" }],
  ] as const)
    expect(parseConditionSpec(conditionText(name, spec), name)).toEqual({ ok: true, value: spec });
});

test.each<[string, string, boolean]>([
  ["charge.termination-current", "100", false],
  ["charge.termination-current", "0.1", true],
  ["charge.termination-current", "100 mA", true],
  ["boost.max-current", "500", false],
  ["boost.max-current", "2", true],
  ["standby.current", "5", false],
  ["standby.current", "50u", true],
  ["charge.total-time", "2", false],
  ["charge.total-time", "2 h", true],
  ["path.handover-time", "20", false],
  ["cell.capacity", "2600", false],
])("a bare number a hundred times off what is usual is asked about: %s of %s", (name, text, taken) => {
  const r = parseLimit(text, characteristic(name) as Characteristic);
  expect({ text, ok: r.ok }).toEqual({ text, ok: taken });
  if (!r.ok) expect(r.error).toMatch(/Type the unit with it/);
});
