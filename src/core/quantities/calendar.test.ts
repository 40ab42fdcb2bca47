import { calendarDay } from ".";

test.each([
  ["2026-12-01T19:30:00Z", "Pacific/Auckland", "2026-12-02"],
  ["2026-12-01T10:59:59Z", "Pacific/Auckland", "2026-12-01"],
  ["2026-12-01T11:00:00Z", "Pacific/Auckland", "2026-12-02"],
  ["2026-06-30T23:30:00Z", "Europe/London", "2026-07-01"],
  ["2026-12-01T04:59:00Z", "America/New_York", "2026-11-30"],
  ["2026-12-31T18:29:59Z", "Asia/Kolkata", "2026-12-31"],
  ["2026-12-31T18:30:00Z", "Asia/Kolkata", "2027-01-01"],
  ["2026-12-01T23:59:00Z", "UTC", "2026-12-01"],
  ["2026-12-01T23:59:00Z", "Nowhere/At all", "2026-12-01"],
])("%s in %s is on %s", (moment, zone, day) => expect(calendarDay(moment, zone)).toBe(day));

test("summer time: the days on which the clocks change begin and end at midnight there", () => {
  // 2026-03-29 in Berlin has 23 hours, 2026-10-25 has 25.
  expect(["2026-03-28T22:59Z", "2026-03-28T23:00Z", "2026-03-29T21:59Z", "2026-03-29T22:00Z"].map(berlin)).toEqual([
    "2026-03-28",
    "2026-03-29",
    "2026-03-29",
    "2026-03-30",
  ]);
  expect(["2026-10-24T21:59Z", "2026-10-24T22:00Z", "2026-10-25T22:59Z", "2026-10-25T23:00Z"].map(berlin)).toEqual([
    "2026-10-24",
    "2026-10-25",
    "2026-10-25",
    "2026-10-26",
  ]);
});

const berlin = (moment: string): string => calendarDay(moment, "Europe/Berlin");
