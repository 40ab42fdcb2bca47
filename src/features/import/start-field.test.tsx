/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import type { ColumnMapping, TextTable } from "@/core/files";
import { firstMoment, StartField, type Began } from "./start-field";

afterEach(cleanup);

const CHANGED = new Date(2026, 10, 20, 17, 45);
const file = new File(["x"], "log.csv", { lastModified: CHANGED.getTime() });
const table = (cell: string): TextTable =>
  ({ headers: ["Time", "Volts"], rows: [[cell, "3.2"]] }) as unknown as TextTable;
const timed = (unit: string): ColumnMapping => ({ time: { header: "Time", unit } }) as unknown as ColumnMapping;

test.each([
  ["2026-11-20T09:30:00Z", "2026-11-20T09:30:00.000Z"],
  ["2026-11-20T09:30:00+05:30", "2026-11-20T04:00:00.000Z"],
  // Without a zone: the time of day where this test runs.
  ["2026-11-20 09:30:00", new Date(2026, 10, 20, 9, 30).toISOString()],
])("the stamp %s is read from the log", (cell, moment) =>
  expect(firstMoment({ file, table: table(cell) }, timed("iso"))).toEqual({ moment, assumed: false, read: true }),
);

test("a time of day is laid on the file's date, anything else on the file's date and time: both are assumed", () => {
  expect(firstMoment({ file, table: table("09:30:00") }, timed("hh:mm:ss"))).toEqual({
    moment: new Date(2026, 10, 20, 9, 30).toISOString(),
    assumed: true,
    read: false,
  });
  expect(firstMoment({ file, table: table("0") }, timed("s"))).toEqual({
    moment: CHANGED.toISOString(),
    assumed: true,
    read: false,
  });
  expect(firstMoment({ file, table: table("0") }, {} as ColumnMapping).assumed).toBe(true);
});

test("what was assumed is put right in local time and is assumed no more; what stands in the log can't be changed", () => {
  const told: Began[] = [];
  const { rerender } = render(
    <StartField began={{ moment: CHANGED.toISOString(), assumed: true, read: false }} onBegan={(b) => told.push(b)} />,
  );
  const field = screen.getByLabelText<HTMLInputElement>(/First reading on/);
  expect(field.value).toBe("2026-11-20T17:45");
  fireEvent.change(field, { target: { value: "2026-11-19T08:00" } });
  expect(told).toEqual([{ moment: new Date(2026, 10, 19, 8, 0).toISOString(), assumed: false, read: false }]);
  fireEvent.change(field, { target: { value: "" } });
  expect(told).toHaveLength(1);
  rerender(
    <StartField began={{ moment: CHANGED.toISOString(), assumed: false, read: true }} onBegan={() => undefined} />,
  );
  expect(field.disabled).toBe(true);
});
