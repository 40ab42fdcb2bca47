import type { Finding } from "../measurement";
import { differences } from ".";

const finding = (
  characteristic: string,
  value: number | string,
  expandedUncertainty?: number,
  conditions: Finding["conditions"] = {},
  bound?: Finding["bound"],
): Finding => ({
  characteristic,
  value,
  unit: "A",
  conditions,
  budget: [],
  points: [],
  unfair: [],
  ...(expandedUncertainty !== undefined ? { expandedUncertainty } : {}),
  ...(bound ? { bound } : {}),
});

test("pairs what two runs found, and says which change is more than both uncertainties", () => {
  const before = [
    finding("charge.cc-current", 1, 0.003, { configuration: "R 1k" }),
    finding("charge.cv-voltage", 4.2, 0.003),
    finding("charge.rest-voltage", 4.18, 0.002),
    finding("channels.done-current", 0.5, 0.01, { channel: 2 }),
  ];
  const after = [
    finding("charge.cc-current", 0.5, 0.004, { configuration: "R 2k" }),
    finding("charge.cv-voltage", 4.204, 0.003),
    finding("channels.done-current", 0.4, 0.01, { channel: 1 }),
    finding("charge.capacity", 2, 0.01),
  ];
  expect(
    differences(before, after).map((d) => [
      d.characteristic,
      d.change === null ? null : Number(d.change.toFixed(6)),
      d.beyond,
    ]),
  ).toEqual([
    ["charge.cc-current", -0.5, true],
    ["charge.cv-voltage", 0.004, false],
    ["charge.rest-voltage", null, false],
    ["channels.done-current", null, false],
    ["channels.done-current", null, false],
    ["charge.capacity", null, false],
  ]);
  expect(differences(before, after)[0]?.expandedUncertainty).toBeCloseTo(0.005, 9);
});

test("a word and a bound have no difference", () => {
  const pair = (a: Finding, b: Finding) => differences([a], [b])[0]?.change;
  expect(pair(finding("x", "automatic"), finding("x", "none"))).toBeNull();
  expect(pair(finding("x", 1, 0.1, {}, "at-least"), finding("x", 2, 0.1))).toBeNull();
});
