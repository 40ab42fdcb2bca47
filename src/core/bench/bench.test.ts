import { PROCEDURES } from "../procedures";
import { BENCHES, benchOf } from "./index";

test("what is offered for a procedure stands on its bench, the sound one first", () => {
  for (const [procedure, first] of [
    ["heat-soak", "steady-synchronous"],
    ["power-path", "seamless-path"],
    ["solar-input", "holding-switcher"],
    ["meter-check", "four-wire"],
    ["discharge", "honest-cell"],
    ["pack-charge", "balanced-three"],
  ] as const)
    expect(Object.keys(benchOf(procedure)?.specimens ?? {})[0]).toBe(first);
});

test("every bench is that of a procedure, once; what a guide drives can be driven, with whatever stands on it", () => {
  const ids = PROCEDURES.map((p) => p.id);
  for (const b of BENCHES) expect([b.procedure, ids.includes(b.procedure)]).toEqual([b.procedure, true]);
  expect(new Set(BENCHES.map((b) => b.procedure)).size).toBe(BENCHES.length);
  for (const p of PROCEDURES) {
    const bench = benchOf(p.id);
    const guided = p.readings === "trace" && p.guide !== undefined;
    expect([p.id, bench?.simulate !== undefined]).toEqual([p.id, guided]);
    for (const id of [...Object.keys(bench?.specimens ?? {}), "none of them"])
      if (guided)
        expect(Object.keys(bench?.simulate?.(id, { conditions: {}, instruments: {} }, 1).read() ?? {})).not.toEqual([]);
    for (const run of bench?.demo ?? []) expect(Object.keys(bench?.specimens ?? {})).toContain(run.specimen);
  }
});
