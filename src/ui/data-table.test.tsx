/** @jest-environment jsdom */
import "@/testing/screen";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { DataTable, type DataColumn } from "./data-table";

interface Board {
  readonly name: string;
  readonly volts?: number;
}
const BOARDS: readonly Board[] = [
  { name: "Sedge 51", volts: 5.02 },
  { name: "Alder 12" },
  { name: "Marl 15", volts: 4.87 },
  { name: "Peat Duo", volts: 5.1 },
];
const COLUMNS: readonly DataColumn<Board>[] = [
  { id: "name", head: "Board", names: true, content: (b) => b.name, by: (b) => b.name },
  { id: "volts", head: "Output", figures: true, content: (b) => b.volts ?? "not stated", by: (b) => b.volts },
  { id: "act", head: "Acts", bare: true, content: (b) => <button type="button">Open {b.name}</button> },
];

const names = (): (string | null)[] => screen.getAllByRole("rowheader").map((h) => h.textContent);

afterEach(cleanup);

test("rows stand in the order given until a head is pressed; what is not known comes last both ways round", async () => {
  const user = userEvent.setup();
  render(<DataTable label="Boards" rows={BOARDS} columns={COLUMNS} id={(b) => b.name} />);
  expect(names()).toEqual(["Sedge 51", "Alder 12", "Marl 15", "Peat Duo"]);
  const head = screen.getByRole("columnheader", { name: /Output/ });
  await user.click(within(head).getByRole("button"));
  const once = names();
  await user.click(within(head).getByRole("button"));
  const twice = names();
  expect([once, twice].map((l) => l[0]).sort()).toEqual(["Marl 15", "Peat Duo"]);
  expect([once.at(-1), twice.at(-1)]).toEqual(["Alder 12", "Alder 12"]);
  expect(once.slice(0, 3)).toEqual(twice.slice(0, 3).reverse());
  expect(["ascending", "descending"]).toContain(head.getAttribute("aria-sort"));
});

test("a column that nothing can be sorted by has no button; its head is read out though it is not drawn", () => {
  render(<DataTable label="Boards" rows={BOARDS} columns={COLUMNS} id={(b) => b.name} />);
  const head = screen.getByRole("columnheader", { name: "Acts" });
  expect(within(head).queryByRole("button")).toBeNull();
  expect(screen.getByRole("table", { name: "Boards" })).toBeTruthy();
});

test("a row opens below itself, over all columns, and keeps its place", () => {
  render(
    <DataTable
      rows={BOARDS}
      columns={COLUMNS}
      id={(b) => b.name}
      below={(b) => (b.name === "Marl 15" ? "three runs" : null)}
    />,
  );
  const opened = screen.getByRole("cell", { name: "three runs" });
  expect(opened.getAttribute("colspan")).toBe("3");
  expect(opened.closest("tr")?.previousElementSibling?.textContent).toContain("Marl 15");
});
