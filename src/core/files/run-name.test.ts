import { datedTitle } from "./run-name";

test.each([
  ["Load sweep, sample A, 2026-11-25", "2026-11-25T09:00:00Z", "UTC", "Load sweep, sample A, 2026-11-25"],
  ["Charge cycle from before.csv", "2026-11-24T23:59:00Z", "UTC", "Charge cycle from before.csv, 2026-11-24"],
  ["Charge cycle from before.csv", "2026-11-24T23:59:00Z", "Europe/Berlin", "Charge cycle from before.csv, 2026-11-25"],
  ["Load sweep, sample A, 2026-11-25", "2026-11-24T19:30:00Z", "Pacific/Auckland", "Load sweep, sample A, 2026-11-25"],
  ["Copy of 2026-11-20", "2026-11-25T09:00:00Z", "UTC", "Copy of 2026-11-20, 2026-11-25"],
])("%s of %s, taken in %s, is listed as %s", (title, startUtc, zone, listed) =>
  expect(datedTitle({ title, startUtc, zone })).toBe(listed),
);
