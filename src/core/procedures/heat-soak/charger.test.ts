import { HOUSE_RULES, NO_CORRECTIONS, type Analysis, type RunSetup } from "../../measurement";
import { analyseReadings, type Procedure } from "..";
import { heatSoak, type HeatPlan } from ".";
import { numeric } from "../../quantities";

const METER = { gain: 0.001, counts: 1, resolution: 0.001 };
const HEAT = { gain: 0.001, counts: 1, resolution: 0.1 };
const METERS = {
  inputVoltage: METER,
  inputCurrent: METER,
  cellVoltage: METER,
  cellCurrent: METER,
  partTemperature: HEAT,
  ambientTemperature: HEAT,
};

interface Charger {
  readonly input?: number;
  readonly current?: number;
  readonly cell?: number;
  /** Share of the input power that reaches the cell where it switches. */
  readonly efficiency?: number;
  readonly folds?: number;
  readonly stated?: number;
  readonly minutes?: number;
  /** K/W that the part rises above its board within seconds. */
  readonly quick?: number;
}
const [AMBIENT, RESISTANCE, TAU] = [25, 40, 300];

/** A soak logged every 2 s of a charger that warms by 40 K/W with 300 s; the charge comes on after a minute. */
function soaked({
  input = 5,
  current = 1,
  cell = 3.6,
  efficiency,
  folds,
  stated,
  minutes = 40,
  quick = 0,
}: Charger): Analysis {
  const plan = heatSoak.plan({
    claims: [],
    rules: HOUSE_RULES,
    functions: ["charger"],
    rig: { instruments: METERS, supplyCurrentLimit: 3, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
  });
  if (!plan.ok) throw new Error(plan.error);
  const setup: RunSetup<HeatPlan> = {
    ...plan.value,
    instruments: METERS,
    conditions: { ...plan.value.conditions, ...(stated ? { foldbackTemperature: stated } : {}) },
  };
  const n = (minutes * 60) / 2;
  const column = () => new Float64Array(n);
  const c = {
    time: column(),
    inputVoltage: column(),
    inputCurrent: column(),
    cellVoltage: column(),
    cellCurrent: column(),
    partTemperature: column(),
    ambientTemperature: column(),
  };
  let [rise, above] = [0, 0];
  for (let k = 0; k < n; k++) {
    const on = k >= 30;
    const amps = on
      ? current * (folds === undefined ? 1 : Math.min(1, Math.max(0.1, 1 - (AMBIENT + rise + above - folds) / 6)))
      : 0;
    const drawn = efficiency ? (amps * cell) / (input * efficiency) : amps;
    const at = {
      time: 2 * k,
      inputVoltage: input,
      inputCurrent: drawn,
      cellVoltage: cell,
      cellCurrent: amps,
      partTemperature: AMBIENT + rise + above,
      ambientTemperature: AMBIENT,
    };
    for (const [role, value] of Object.entries(at)) c[role as keyof typeof c][k] = value;
    rise += ((input * drawn - cell * amps) * (RESISTANCE - quick) - rise) * (1 - Math.exp(-2 / TAU));
    above += ((input * drawn - cell * amps) * quick - above) * (1 - Math.exp(-2 / 8));
  }
  return analyseReadings(
    heatSoak as unknown as Procedure,
    { kind: "trace", trace: { columns: c, events: [] } },
    setup as RunSetup,
    NO_CORRECTIONS,
  );
}
const lowest = (a: Analysis) => a.findings.find((f) => f.characteristic === "heat.lowest-cell-voltage");
const why = (a: Analysis) => a.notStated?.find((n) => n.characteristic === "heat.lowest-cell-voltage");

test("a linear charger at 5 V and 1 A that cuts back at 100 °C keeps its current from 5 − 75/40 = 3.125 V", () => {
  const f = lowest(soaked({ stated: 100 }));
  expect(Math.abs(numeric(f?.value) - 3.125)).toBeLessThan(0.02);
  // The kelvin of the stated temperature leaves 1/(√3·40) V, as a standard uncertainty, and the meters some more.
  expect(f?.expandedUncertainty).toBeGreaterThan(2 / (Math.sqrt(3) * 40));
  expect(f?.expandedUncertainty).toBeLessThan(0.12);
  expect(f?.conditions).toEqual({});
});

test("where the log itself shows it cutting back, that temperature is taken, and it is said", () => {
  const a = soaked({ cell: 3, folds: 90 });
  // 5 − 65/40 = 3.375 V.
  const f = lowest(a);
  expect(Math.abs(numeric(f?.value) - 3.375)).toBeLessThan(f?.expandedUncertainty ?? 0);
  expect(f?.expandedUncertainty).toBeLessThan(0.2);
  expect(a.notes.find((n) => n.code === "cut-back")?.message).toMatch(
    /at this ambient and cell voltage it doesn't keep its full current of 1(\.00)?\sA/,
  );
});

test("the heat sink that it needs is said for the bench and for a case", () => {
  const note = soaked({ stated: 100 }).notes.find((n) => n.code === "heat-sink")?.message;
  // 2 W into 3 V: 75/2 = 37.5 K/W on the bench, 60/2 = 30 K/W in a case; it has 40.
  expect(note).toMatch(
    /burns 2(\.00)?\sW\..*up to 37\.5\sK\/W.*30(\.0)?\sK\/W; the board as it is has 4?0?[\d.]+\sK\/W, so it needs a heat sink/,
  );
  expect(soaked({ stated: 130 }).notes.find((n) => n.code === "heat-sink")?.message).toMatch(/enough on this bench/);
});

test("several side by side warm the board together: worked from 10 K/W of the part's own and 30 K/W of the board", () => {
  const note = soaked({ stated: 100, quick: 10 }).notes.find((n) => n.code === "side-by-side")?.message ?? "";
  const volts = [...note.matchAll(/from a cell of ([\d.]+)\sV/g)].map((m) => Number(m[1]));
  // 5 V − 75 K ÷ (10 + n·30) K/W ÷ 1 A.
  for (const [k, n] of [2, 3, 4].entries())
    expect(Math.abs((volts[k] ?? 0) - (5 - 75 / (10 + 30 * n)))).toBeLessThan(0.06);
  expect(note).toMatch(/Two keep their full current from .* three from .* four from /);
});

test.each([
  ["a switching charger", { efficiency: 0.9, stated: 100 }, "not-in-log", /switches/],
  ["one of which nobody knows where it cuts back", {}, "needs", /neither seen in the log nor stated/],
  [
    "one that keeps its current into any cell",
    { input: 5, current: 0.2, stated: 120 },
    "did-not-happen",
    /any voltage/,
  ],
] as const)("%s is told why it is not stated", (_, charger, code, reason) => {
  const a = soaked(charger);
  expect(lowest(a)).toBeUndefined();
  expect(why(a)?.code).toBe(code);
  expect(why(a)?.reason).toMatch(reason);
});

test("the condition is asked for only where a charge warms it", async () => {
  const { conditionsAsked } = await import("../kit/conditions-asked");
  const asked = (roles: Parameters<typeof conditionsAsked>[2]) =>
    conditionsAsked(heatSoak as never, {}, roles).map((c) => c.key);
  expect(asked(["cellCurrent"])).toContain("foldbackTemperature");
  expect(asked(["outputCurrent"])).not.toContain("foldbackTemperature");
});
