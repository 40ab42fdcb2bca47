import { datedTitle } from "./run-name";

test.each([
  ["Load sweep, sample A, 2026-11-25", "2026-11-25T09:00:00Z", "Load sweep, sample A, 2026-11-25"],
  ["Charge cycle from before.csv", "2026-11-24T23:59:00Z", "Charge cycle from before.csv, 2026-11-24"],
  ["Copy of 2026-11-20", "2026-11-25T09:00:00Z", "Copy of 2026-11-20, 2026-11-25"],
])("%s of %s is listed as %s", (title, startUtc, listed) => expect(datedTitle({ title, startUtc })).toBe(listed));
