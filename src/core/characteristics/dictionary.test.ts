import {
  CHARACTERISTICS,
  CONDITION_LABELS,
  CONDITION_UNITS,
  BOARD_FUNCTIONS,
  FUNCTION_LABELS,
  characteristic,
  formatConditions,
  meetsCondition,
  usualClaims,
  type Conditions,
} from ".";

/** The names that files, findings and verdicts agree on: name, unit, conditions of its name. Renaming one breaks every archive. */
const AGREED = `
charge.precharge-current A | charge.precharge-threshold V | charge.cc-current A configuration | charge.cc-end-voltage V
charge.cc-duration s | charge.cv-voltage V | charge.termination-current A | charge.termination-voltage V
charge.rest-voltage V | charge.total-time s | charge.capacity Ah | charge.partial-capacity Ah | charge.interruptions count | charge.paused-time s | charge.energy-delivered Wh
charge.energy-drawn Wh | charge.efficiency 1 | charge.input-sag V | charge.peak-dissipation W
charge.peak-temperature-rise K | charge.foldback-onset-temperature °C | charge.recharge-threshold V
charge.input-minimum V configuration | charge.input-maximum V configuration | charge.set-current-minimum A | charge.set-current-maximum A
channels.done-voltage V channel | channels.done-current A channel | channels.voltage-spread V | channels.early-time s
channels.early-charge Ah
boost.no-load-voltage V battery,output,configuration | boost.peak-efficiency 1 battery,output,configuration
boost.peak-efficiency-current A battery,output,configuration | boost.lowest-efficiency 1 battery,output,configuration
boost.max-current A battery,output,configuration | boost.collapse-current A battery,output,configuration
boost.load-regulation 1 battery,output,configuration | boost.output-resistance Ω battery,output,configuration
boost.line-regulation 1 output,configuration | boost.start-current A battery,kind,output,configuration
boost.start-voltage V load,output,configuration
boost.output-minimum V configuration | boost.output-maximum V configuration
boost.input-minimum V output,configuration | boost.input-maximum V output,configuration
boost.ripple V battery,load,output,configuration
boost.input-current-limit A output,configuration
protect.over-discharge-voltage V | protect.over-discharge-release V | protect.over-charge-voltage V
protect.over-charge-release V | protect.residual-current A | boost.dropout-voltage V
protect.over-current A | protect.short-current A | protect.short-peak A
standby.current A state | standby.life s state | standby.auto-off-current A | standby.auto-off-delay s
heat.steady-temperature °C | heat.time-constant s | heat.thermal-resistance K/W | heat.max-ambient °C
heat.lowest-cell-voltage V
path.output-voltage V input | path.dip V event | path.overshoot V event | path.handover-time s event
path.charge-current A load | path.input-current A load
solar.conversion-efficiency 1 | solar.harvest 1 | solar.panel-voltage V
reverse.current A | meter.offset V | meter.lead-resistance Ω
pack.cutoff-cell-voltage V | pack.current-at-cutoff A | pack.release-cell-voltage V | pack.spread-at-cutoff V
pack.low-cutoff-cell-voltage V | pack.voltage-at-cutoff V | pack.charge-at-cutoff Ah | pack.missing-charge Ah cell | pack.rebound V cell
cell.capacity Ah rate,floor | cell.resistance Ω | cell.rest-drop-rate V/day cell
behaviour.gauge-step V action
`;
const YES_NO = [
  "protect.over-discharge-present",
  "protect.short-present",
  "path.finishes-under-load",
  "reverse.survived",
];
const WORDS = ["protect.short-recovery", "behaviour.response"];

const agreed = AGREED.trim()
  .split(/\s*[|\n]\s*/)
  .map((entry) => entry.split(" "));

describe("the dictionary", () => {
  test.each(agreed)("%s is a number in %s", (name = "", unit = "", at = "") => {
    const c = characteristic(name);
    expect(c).toMatchObject({ name, unit, kind: "number" });
    expect(c?.at.join(",")).toBe(at);
  });

  test("yes or no, and words, carry no unit", () => {
    for (const name of YES_NO)
      expect(characteristic(name)).toMatchObject({ kind: "yes/no", unit: "", usualLimit: "yes-no" });
    for (const name of WORDS) expect(characteristic(name)).toMatchObject({ kind: "word", unit: "" });
    expect(characteristic("protect.short-recovery")?.words).toEqual([
      "automatic",
      "load-removal",
      "power-cycle",
      "none",
    ]);
  });

  test("holds nothing else, each name once, each with a label and a definition that is a sentence", () => {
    expect(CHARACTERISTICS.map((c) => c.name).sort()).toEqual([...agreed.map((a) => a[0]), ...YES_NO, ...WORDS].sort());
    for (const c of CHARACTERISTICS) {
      expect(c.label.length).toBeGreaterThan(3);
      expect(c.definition).toMatch(/\.$/);
      for (const at of c.at) expect(CONDITION_UNITS).toHaveProperty(at);
    }
    expect(new Set(CHARACTERISTICS.map((c) => c.label)).size).toBe(CHARACTERISTICS.length);
  });

  test("every function has words, every condition a label", () => {
    for (const f of BOARD_FUNCTIONS) expect(FUNCTION_LABELS[f]).toMatch(/^[a-z]/);
    expect(Object.keys(CONDITION_LABELS).sort()).toEqual(Object.keys(CONDITION_UNITS).sort());
  });

  test("functions offer what such boards usually claim, none offers nothing", () => {
    expect(usualClaims([])).toEqual([]);
    const boost = usualClaims(["boost"]).map((c) => c.name);
    expect(boost).toEqual(
      expect.arrayContaining([
        "boost.no-load-voltage",
        "boost.max-current",
        "boost.peak-efficiency",
        "standby.current",
      ]),
    );
    expect(boost).not.toContain("charge.cc-current");
    expect(usualClaims(["charger", "boost"]).length).toBeGreaterThan(boost.length);
    for (const f of BOARD_FUNCTIONS) expect(usualClaims([f]).length).toBeGreaterThan(0);
  });
});

describe("conditions", () => {
  test.each<[string, Parameters<typeof meetsCondition>[1], number | string | undefined, boolean]>([
    ["the very value", { at: 3.6 }, 3.6, true],
    ["3 % beside it", { at: 3.6 }, 3.7, true],
    ["more than 3 % beside it", { at: 3.6 }, 3.72, false],
    ["inside a range", { from: 3, to: 4.2 }, 3.1, true],
    ["at the end of a range", { from: 3, to: 4.2 }, 4.2, true],
    ["past a range", { from: 3, to: 4.2 }, 4.5, false],
    ["a word, whatever its case", { word: "J1 open" }, "j1 OPEN ", true],
    ["another word", { word: "J1 open" }, "J1 closed", false],
    ["nothing measured", { at: 5 }, undefined, false],
    ["a word where a number is claimed", { at: 5 }, "off", false],
    ["nothing at nothing", { at: 0 }, 0, true],
  ])("%s", (_, spec, value, expected) => {
    expect(meetsCondition("battery", spec, value)).toBe(expected);
  });

  test.each<[Parameters<typeof meetsCondition>, boolean]>([
    [["ambient", { at: 25 }, 27.9], true],
    [["ambient", { at: 25 }, 28.1], false],
    [["ambient", { at: 0 }, -2], true],
    [["ambient", { from: 0, to: 40 }, 42], true],
    [["load", { at: 0.01 }, 0.0104], false],
    [["load", { at: 0.01 }, 0.0104, 0.0005], true],
    [["load", { at: 0 }, 0.0004, 0.0005], true],
    [["inputVoltage", { from: 4.5, to: 5.5 }, 5.6], true],
  ])("a temperature within 3 K, another number within 3 %% or its meter's uncertainty: %j is %p", (args, expected) => {
    expect(meetsCondition(...args)).toBe(expected);
  });

  test.each<[Conditions, RegExp]>([
    [{}, /^$/],
    [{ battery: 4.1 }, /4\.1\sV/],
    [{ battery: 3.6, output: 9, configuration: "J1 closed" }, /3\.6\sV.*9\sV.*J1 closed/],
    [{ load: 0.25 }, /250\smA/],
    [{ channel: 2 }, /2/],
  ])("%p in words", (conditions, expected) => {
    expect(formatConditions(conditions)).toMatch(expected);
  });
});
