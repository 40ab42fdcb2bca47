import type { BenchProcedure } from "@/core/procedures";
import type { RigRecord } from "@/core/files/records";
import { conditionsOf, conditionsShown, lastTaken, rigTaken, statedOf, unreadOf } from "./plan-form";

const P: Pick<BenchProcedure, "fields" | "conditionFields" | "resistors"> = {
  fields: [
    {
      key: "kind",
      label: "Kind",
      of: [
        { value: "a", label: "a" },
        { value: "b", label: "b" },
      ],
    },
    { key: "efficiency", label: "Efficiency", unit: "1", low: 0, high: 1, where: { key: "kind", is: "b" } },
    { key: "start", label: "Start", unit: "V", low: 0, high: 5, optional: true },
    { key: "limit", label: "Limit", unit: "A", low: 0, high: 5 },
  ],
  conditionFields: [
    { key: "programmedCurrent", label: "Current", unit: "A", low: 0 },
    { key: "ambientTemperature", label: "Ambient", unit: "°C", low: -40, first: 22 },
  ],
};
const RIG = {
  inputLeadResistance: 0.01,
  outputLeadResistance: 0,
  useDrawer: false,
  drawer: [{ ohms: 10, watts: 5 }],
} as unknown as RigRecord;
const begun = {
  plan: { kind: "a", efficiency: 0.9, start: 3.7, limit: 1 },
  conditions: { programmedCurrent: null, ambientTemperature: 22 },
};
const form = { ...begun, rig: RIG, simulated: null };
const unread = (change: Partial<typeof form>, p: typeof P = P): boolean =>
  unreadOf(p, { ...form, ...change } as typeof form, begun, []);

test("what is shown where a set-up states nothing is what the form begins with; the rest is not known", () => {
  expect(conditionsOf(P, { conditions: {}, instruments: {} }, [])).toEqual({
    programmedCurrent: null,
    ambientTemperature: 22,
  });
  expect(
    conditionsOf(P, { conditions: { programmedCurrent: 0.5, configuration: "J1 open" }, instruments: {} }, []),
  ).toEqual({ programmedCurrent: 0.5, ambientTemperature: 22, configuration: "J1 open" });
  expect(statedOf({ programmedCurrent: null, ambientTemperature: 22 })).toEqual({ ambientTemperature: 22 });
});

test("a usual condition that was emptied is still asked for", () => {
  expect(conditionsShown({}, { usableCapacity: 2 }, []).map((c) => c.key)).toEqual(["usableCapacity"]);
  expect(conditionsShown({}, { usableCapacity: null }, []).map((c) => c.key)).toEqual(["usableCapacity"]);
  expect(conditionsShown({}, {}, [])).toEqual([]);
});

test("nonsense leaves what last could be taken; an empty field that may be empty is empty", () => {
  expect(lastTaken({ a: NaN, b: null, c: 3 }, { a: 1, b: 2, c: 0 })).toEqual({ a: 1, b: null, c: 3 });
  expect(
    rigTaken({ ...RIG, inputLeadResistance: NaN, outputLeadResistance: null as never, drawer: NaN as never }, RIG),
  ).toEqual(RIG);
  expect(rigTaken({ ...RIG, inputLeadResistance: 0.2 }, RIG).inputLeadResistance).toBe(0.2);
});

test.each<[string, Partial<typeof form>, boolean]>([
  ["as it began", {}, false],
  ["a number that makes no sense", { plan: { ...begun.plan, limit: NaN } }, true],
  ["a number that was emptied", { plan: { ...begun.plan, limit: null as never } }, true],
  ["an optional one that was emptied", { plan: { ...begun.plan, start: null as never } }, false],
  ["nonsense in an optional one", { plan: { ...begun.plan, start: NaN } }, true],
  ["nonsense in a field that is not shown", { plan: { ...begun.plan, efficiency: NaN } }, false],
  ["nonsense in it once it is shown", { plan: { ...begun.plan, kind: "b", efficiency: NaN } }, true],
  [
    "a condition that was emptied",
    { conditions: { programmedCurrent: null, ambientTemperature: null as never } },
    true,
  ],
  ["a condition that never was known", { conditions: { programmedCurrent: null, ambientTemperature: 25 } }, false],
  ["the sampling of a bench that is not used", { plan: { ...begun.plan, every: NaN } as typeof begun.plan }, false],
  [
    "the sampling of the bench",
    { plan: { ...begun.plan, every: NaN } as typeof begun.plan, simulated: "alder" as never },
    true,
  ],
])("a field stands in the way of the start: %s", (_, change, expected) => {
  expect(unread(change)).toBe(expected);
});

test("leads and drawer stand in the way where the procedure asks for them", () => {
  const leads = { rig: { ...RIG, inputLeadResistance: NaN } };
  expect([unread(leads), unread(leads, { ...P, resistors: true })]).toEqual([false, true]);
  expect(unread({ rig: { ...RIG, drawer: NaN as never } }, { ...P, resistors: true })).toBe(false);
  expect(unread({ rig: { ...RIG, useDrawer: true, drawer: NaN as never } }, { ...P, resistors: true })).toBe(true);
});
