/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { Select } from "./select";

const CHOICES = ["not used", "battery voltage", "output voltage", "output current"].map((label) => ({
  value: label.replaceAll(" ", "-"),
  label,
}));
const chosen: string[] = [];

function Held() {
  const [value, setValue] = useState("not-used");
  return (
    <>
      <Select
        label="Column 1 is"
        value={value}
        onValue={(v) => {
          chosen.push(v);
          setValue(v);
        }}
        choices={CHOICES}
      />
      <button type="button">after it</button>
    </>
  );
}

beforeEach(() => {
  chosen.length = 0;
  // What the list needs of a browser and the test's has not.
  Element.prototype.scrollIntoView = () => undefined;
  Element.prototype.hasPointerCapture = () => false;
});
afterEach(cleanup);
const trigger = () => screen.getByRole("combobox", { name: "Column 1 is" });

test("shows what is chosen before its list was ever made", () => {
  render(<Held />);
  expect(trigger().textContent).toBe("not used");
});

test("typing goes to the first that begins so, with the list closed", async () => {
  const user = userEvent.setup();
  render(<Held />);
  await user.tab();
  expect(document.activeElement).toBe(trigger());
  await user.keyboard("o");
  expect(chosen).toEqual(["output-voltage"]);
  expect(trigger().textContent).toBe("output voltage");
});

test("opens from the keyboard at what is chosen, and takes the next", async () => {
  const user = userEvent.setup();
  render(<Held />);
  await user.tab();
  await user.keyboard("b{ArrowDown}");
  expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(CHOICES.map((c) => c.label));
  expect(screen.getByRole("option", { selected: true }).textContent).toBe("battery voltage");
  await user.keyboard("{ArrowDown}{Enter}");
  expect(chosen).toEqual(["battery-voltage", "output-voltage"]);
  expect(screen.queryByRole("option")).toBeNull();
});

test("opens at a click that comes before any focus", async () => {
  const user = userEvent.setup();
  render(<Held />);
  await user.click(trigger());
  await user.click(screen.getByRole("option", { name: "output current" }));
  expect(chosen).toEqual(["output-current"]);
});
