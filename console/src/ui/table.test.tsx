import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import "../testing";
import { type Column, Table } from "./table";

type Row = { id: number; name: string; pages: number | null };
const ROWS: Row[] = [
  { id: 1, name: "rope", pages: 3 },
  { id: 2, name: "Anchor", pages: null },
  { id: 3, name: "chain", pages: 20 },
];
const COLUMNS: Column<Row>[] = [
  { head: "Name", sort: (r) => r.name, cell: (r) => r.name },
  { head: "Pages", sort: (r) => r.pages, number: true, cell: (r) => r.pages ?? "–" },
  { head: "Open", quiet: true, cell: (r) => `open ${r.id}` },
];
const fixed = { columns: COLUMNS, id: (r: Row) => r.id, caption: "Things", empty: "None." };
const names = () => screen.getAllByRole("row").slice(1).map((row) => within(row).getAllByRole("cell")[0]?.textContent); // prettier-ignore

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe("sorting", () => {
  it("begins with the large figures, and leaves rows without one at the end either way", () => {
    render(<Table {...fixed} rows={ROWS} />);
    expect(names()).toEqual(["rope", "Anchor", "chain"]);
    fireEvent.click(screen.getByText("Pages"));
    expect(names()).toEqual(["chain", "rope", "Anchor"]);
    expect(screen.getAllByRole("columnheader")[1]?.getAttribute("aria-sort")).toBe("descending");
    fireEvent.click(screen.getByText("Pages"));
    expect(names()).toEqual(["rope", "chain", "Anchor"]);
  });
  it("puts words as a dictionary does", () => {
    render(<Table {...fixed} rows={ROWS} />);
    fireEvent.click(screen.getByText("Name"));
    expect(names()).toEqual(["Anchor", "chain", "rope"]);
  });
  it("is left to the service where the service sorts", () => {
    const onSort = vi.fn();
    const columns = [{ ...COLUMNS[0], head: "Name", sort: "name", cell: (r: Row) => r.name }];
    render(<Table {...fixed} columns={columns} rows={ROWS} sorted="Name" onSort={onSort} />);
    expect(names()).toEqual(["rope", "Anchor", "chain"]);
    fireEvent.click(screen.getByText("Name"));
    expect(onSort).toHaveBeenCalledWith("-Name");
  });
});

describe("the choice of columns", () => {
  it("is remembered under the name of the table", async () => {
    const { unmount } = render(<Table {...fixed} rows={ROWS} name="things" />);
    fireEvent.keyDown(screen.getByText(/Columns/), { key: "Enter" });
    expect((await screen.findAllByRole("menuitemcheckbox")).map((i) => i.textContent?.replace("✓", ""))).toEqual([
      "Name",
      "Pages",
    ]);
    fireEvent.click(screen.getByRole("menuitemcheckbox", { name: /Pages/ }));
    unmount();
    render(<Table {...fixed} rows={ROWS} name="things" />);
    expect(screen.queryByText("Pages")).toBeNull();
    expect(screen.getByText("open 1")).toBeTruthy();
  });
});

describe("the selection", () => {
  it("gives the chosen rows to what can be done with them", () => {
    const done = vi.fn();
    const act = (chosen: Row[], clear: () => void) => (
      <button
        type="button"
        onClick={() => {
          done(chosen.map((r) => r.id));
          clear();
        }}
      >
        do it
      </button>
    );
    render(<Table {...fixed} rows={ROWS} act={act} />);
    expect(screen.queryByText("do it")).toBeNull();
    fireEvent.click(screen.getByLabelText("Choose row 2"));
    fireEvent.click(screen.getByLabelText("Choose row 3"));
    expect(screen.getByRole("status").textContent).toBe("2 chosen");
    fireEvent.click(screen.getByText("do it"));
    expect(done).toHaveBeenCalledWith([2, 3]);
    expect(screen.queryByText("do it")).toBeNull();
    fireEvent.click(screen.getByLabelText("Choose all"));
    expect(screen.getByRole("status").textContent).toBe("3 chosen");
  });
});

describe("long lists", () => {
  const many = Array.from({ length: 5000 }, (_, i) => ({ id: i, name: `page ${i}`, pages: i }));
  it("draw what is seen and say how many there are", () => {
    render(<Table {...fixed} rows={many} />);
    expect(screen.getAllByRole("row").length).toBeLessThan(200);
    expect(screen.getByRole("table").getAttribute("aria-rowcount")).toBe("5001");
  });
  it("ask for more when their end comes near", () => {
    const load = vi.fn();
    const { rerender } = render(<Table {...fixed} rows={ROWS} more={{ total: 9, load }} />);
    expect(load).toHaveBeenCalledOnce();
    rerender(<Table {...fixed} rows={many} more={{ total: 90_000, load }} />);
    expect(load).toHaveBeenCalledOnce();
  });
});
