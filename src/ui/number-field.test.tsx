/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MILLIMETRES, NumberField, type NumberFieldProps } from "./number-field";

afterEach(cleanup);

function mounted(more: Partial<NumberFieldProps> = {}) {
  const values: (readonly [number | null, boolean])[] = [];
  render(
    <NumberField
      label="Cut-off"
      quantity="V"
      value={null}
      onValue={(value, empty) => values.push([value, empty])}
      {...more}
    />,
  );
  return { field: screen.getByLabelText("Cut-off"), last: () => values.at(-1), user: userEvent.setup() };
}

test.each([
  ["4.2", 4.2],
  ["4,2", 4.2],
  ["850m", 0.85],
  ["2k4 mV", null],
])("%s is understood as it is typed", async (text, value) => {
  const { field, last, user } = mounted();
  await user.type(field, text);
  expect(last()).toEqual([value, false]);
});

test("nonsense stays in its field with the reason and gives no value; an empty field is told from it", async () => {
  const { field, last, user } = mounted();
  await user.type(field, "4.1q");
  expect((field as HTMLInputElement).value).toBe("4.1q");
  expect(last()).toEqual([null, false]);
  expect(field.getAttribute("aria-invalid")).toBe("true");
  expect(screen.getByText(/no unit of volts/)).toBeTruthy();
  await user.clear(field);
  expect(last()).toEqual([null, true]);
});

test("a value that parses but makes no sense here is refused in its field's words", async () => {
  const { field, last, user } = mounted({ refuse: (v) => (v > 4.35 ? "No cell is charged that far." : null) });
  await user.type(field, "5");
  expect(last()).toEqual([null, false]);
  expect(screen.getByText("No cell is charged that far.")).toBeTruthy();
  await user.clear(field);
  await user.type(field, "4.35");
  expect(last()).toEqual([4.35, false]);
});

test("the unit printed at a field is the one a bare number takes; another may be typed", async () => {
  const { field, last, user } = mounted({ quantity: "m", value: 0.0125, printed: MILLIMETRES });
  expect((field as HTMLInputElement).value).toBe("12.5");
  await user.clear(field);
  await user.type(field, "8");
  expect(last()).toEqual([0.008, false]);
  await user.clear(field);
  await user.type(field, "3 cm");
  expect(last()?.[0]).toBeCloseTo(0.03, 12);
});
