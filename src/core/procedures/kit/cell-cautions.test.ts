import { atBench, PROCEDURES, type PlanContext } from "..";
import { HOUSE_RULES } from "../../measurement";
import { cautionsOf } from "./cell-cautions";

const CONTEXT: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  rig: { instruments: {}, supplyCurrentLimit: 3, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
  configuration: { output: 5 },
};

test.each(PROCEDURES.flatMap((p) => atBench(p) ?? []).map((p) => [p.id, p] as const))(
  "%s asks for a fuse where its wiring has a cell, and nowhere else",
  (_, p) => {
    const planned = p.plan(CONTEXT);
    if (!planned.ok) throw new Error(planned.error);
    const asks = cautionsOf(p, planned.value).some((c) => c.text.startsWith("No fuse is drawn"));
    expect(asks).toBe(p.wiring(planned.value).devices.some((d) => d.kind === "cell"));
    expect(cautionsOf(p, planned.value).slice(0, p.cautions(planned.value).length)).toEqual(p.cautions(planned.value));
  },
);

test("a charge, a pack charge, a discharge, channels and a panel's input connect a cell; a sweep does not", () => {
  const withCell = PROCEDURES.flatMap((p) => {
    const bench = atBench(p);
    const planned = bench?.plan(CONTEXT);
    return bench && planned?.ok && cautionsOf(bench, planned.value).length > bench.cautions(planned.value).length
      ? [p.id]
      : [];
  });
  expect(withCell.sort()).toEqual(["charge-channels", "charge-cycle", "discharge", "pack-charge", "solar-input"]);
});
