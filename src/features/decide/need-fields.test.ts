import { CHARACTERISTICS } from "@/core/characteristics";
import { DEMO_NEED } from "@/core/demo/boards";
import {
  askedConditions,
  FACT_CHOICES,
  freshRow,
  UNUSUAL_QUANTITIES,
  requirementOf,
  rowOf,
  USUAL_REQUIREMENTS,
} from "./need-fields";

test("what stands in the fields of a need gives the need again, requirement by requirement", () => {
  for (const r of DEMO_NEED.requirements) expect(requirementOf(rowOf(r))).toEqual({ ok: true, value: r });
});

test("every usual requirement can be kept as it is offered", () => {
  for (const u of USUAL_REQUIREMENTS) {
    const made = requirementOf(freshRow("x", u.what));
    expect([u.what, made.ok]).toEqual([u.what, true]);
  }
});

test("every quantity of the dictionary is offered once, under the usual ones or the others", () => {
  const offered = [...USUAL_REQUIREMENTS.map((u) => u.what), ...UNUSUAL_QUANTITIES.map((c) => c.name)].filter(
    (w) => w !== "life",
  );
  expect([...offered].sort()).toEqual(CHARACTERISTICS.map((c) => c.name).sort());
  expect(FACT_CHOICES.map((f) => f.what)).toEqual(["fact:price", "fact:length", "fact:width", "fact:height"]);
});

test.each([
  ["boost.max-current", { limit: "lots" }, /lots/],
  ["boost.max-current", { limit: "at least 1", conditions: { battery: "high" } }, /high/],
  ["fact:price", {}, /Enter an upper limit/],
  ["life", { seconds: null }, /Enter the time/],
  ["life", { selfDischarge: null }, /0 if unknown/],
  ["no.such", {}, /Choose a quantity/],
])("%s with %p is refused with what to do", (what, patch, message) => {
  const made = requirementOf({ ...freshRow("x", what), ...patch });
  expect(made.ok ? "" : made.error).toMatch(message);
});

test("a limit is read as a claim's is: prefixes, lone commas, yes", () => {
  const limit = (what: string, text: string) => {
    const made = requirementOf({ ...freshRow("x", what), limit: text });
    return made.ok && made.value.kind === "quantity" ? made.value.reading.limit : null;
  };
  expect(limit("boost.max-current", "at least 250m")).toEqual({ kind: "at-least", low: 0.25 });
  expect(limit("boost.no-load-voltage", "4,75 to 5,25")).toEqual({ kind: "from-to", low: 4.75, high: 5.25 });
  expect(limit("protect.short-present", "yes")).toEqual({ kind: "yes-no", value: true });
});

test("an idle state is kept for a standby life, and none asks for any", () => {
  const row = { ...freshRow("x", "life"), conditions: { state: " auto-off " } };
  expect(requirementOf(row)).toMatchObject({ ok: true, value: { state: "auto-off" } });
  expect(requirementOf({ ...row, conditions: {} })).toMatchObject({ ok: true, value: { state: null } });
  expect(askedConditions("life")).toEqual(["state"]);
  expect(askedConditions("boost.max-current")).toEqual(["battery"]);
});
