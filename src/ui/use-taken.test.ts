import { isTaken } from "./use-taken";

test.each<[unknown, boolean]>([
  [0, true],
  [NaN, false],
  [null, false],
  [undefined, true],
  ["", true],
  [{ title: "", plan: { volts: 5, stages: [{ kind: "cable", resistance: 0 }] } }, true],
  [{ plan: { stages: [{ kind: "cable", resistance: NaN }] } }, false],
  [{ plan: { volts: null } }, false],
  [[1, 2, [3, NaN]], false],
])("values of a form can be taken: %j", (value, expected) => {
  expect(isTaken(value)).toBe(expected);
});
