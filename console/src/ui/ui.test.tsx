import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Labelled } from "./controls";
import { Address, Button, Chip } from "./parts";
import { Trouble } from "./state";
import { Table } from "./table";
import { Bar, Change, Course, Line, Severity } from "./signs";

afterEach(cleanup);

describe("severity", () => {
  it.each([
    ["low", 1],
    ["medium", 2],
    ["high", 3],
    ["critical", 4],
  ] as const)("%s is a stack of %s bricks with the word beside it", (name, level) => {
    const { container } = render(<Severity name={name} />);
    const filled = [...container.querySelectorAll("g")].filter((g) => g.getAttribute("fill") !== "none");
    expect(filled).toHaveLength(level);
    expect(screen.getByText(name)).toBeTruthy();
  });
  it("keeps the word for those who cannot see", () => {
    render(<Severity name="high" bare />);
    expect(screen.getByText("high").className).toBe("sr-only");
  });
});

describe("health", () => {
  it.each([
    [0, 0],
    [2.5, 1],
    [50, 10],
    [97.5, 20],
    [100, 20],
  ])("%s lays %s bricks", (health, bricks) => {
    const { container } = render(<Course health={health} />);
    expect(container.querySelectorAll('rect[fill="var(--accent)"]')).toHaveLength(bricks);
  });
  it("says its figure to those who cannot see", () => {
    render(<Course health={61.42} />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("health 61.4 of 100");
  });
  it("does not take no health for none of it", () => {
    render(<Course health={null} />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("no health");
  });
});

describe("change classes", () => {
  it.each([
    ["new", "▲"],
    ["returned", "↺"],
    ["fixed", "▼"],
    ["still-there", "■"],
    ["check-changed", "◇"],
  ] as const)("%s has the shape %s", (name, shape) => {
    const { container } = render(<Change name={name} />);
    expect(container.textContent).toContain(shape);
    expect(container.textContent).toContain(name.replace("-", " "));
  });
});

describe("small figures", () => {
  it("draw a line through the runs that have one", () => {
    const { container } = render(<Line values={[70, 80, 90]} label="health over 3 runs" />);
    expect(container.querySelector("polyline, path")).toBeTruthy();
  });
  it("say a share in words", () => {
    render(<Bar share={0.5} label="5 of 10 cleared" />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("5 of 10 cleared");
  });
});

describe("tables", () => {
  const columns = [
    { head: "Name", cell: (r: { id: number; name: string }) => r.name },
    { head: "Id", number: true, cell: (r: { id: number; name: string }) => r.id },
  ];
  it("have a caption, heads and rows", () => {
    render(
      <Table rows={[{ id: 1, name: "rope" }]} id={(r) => r.id} caption="Things" empty="None." columns={columns} />,
    );
    const table = screen.getByRole("table");
    expect(within(table).getByText("rope")).toBeTruthy();
    expect(
      within(table)
        .getAllByRole("columnheader")
        .map((h) => h.textContent),
    ).toEqual(["Name", "Id"]);
  });
  it("say when they are empty", () => {
    render(
      <Table
        rows={[]}
        id={(r: { id: number; name: string }) => r.id}
        caption="Things"
        empty="None yet."
        columns={columns}
      />,
    );
    expect(screen.getByText("None yet.")).toBeTruthy();
    expect(screen.queryByRole("table")).toBeNull();
  });
});

describe("bricks", () => {
  it("fields tie label, hint and input together", () => {
    render(
      <Labelled label="Due" hint="Leave empty to set it by severity">
        {(tied) => <input {...tied} defaultValue="x" />}
      </Labelled>,
    );
    expect(screen.getByLabelText(/Due/)).toBeTruthy();
    expect(screen.getByText("Leave empty to set it by severity")).toBeTruthy();
  });
  it("buttons do nothing while they are disabled", () => {
    const pressed = vi.fn();
    render(
      <Button disabled onClick={pressed}>
        Run audit
      </Button>,
    );
    fireEvent.click(screen.getByText("Run audit"));
    expect(pressed).not.toHaveBeenCalled();
  });
  it("chips say whether they are on", () => {
    render(<Chip on>errors</Chip>);
    expect(screen.getByRole("button").getAttribute("aria-pressed")).toBe("true");
  });
  it("trouble says what happened and what to do", () => {
    const again = vi.fn();
    render(<Trouble error={{ status: 409, detail: "Somebody changed it.", hint: "Load it again." }} again={again} />);
    expect(screen.getByRole("alert").textContent).toContain("Somebody changed it.");
    expect(screen.getByRole("alert").textContent).toContain("Load it again.");
    fireEvent.click(screen.getByRole("button"));
    expect(again).toHaveBeenCalledOnce();
  });
  it("addresses are shortened in the middle", () => {
    const long = "/guides/" + "x".repeat(80) + "/end";
    render(
      <Tooltip.Provider>
        <Address text={long} chars={40} />
      </Tooltip.Provider>,
    );
    const shown = screen.getByText(/…/).textContent ?? "";
    expect(shown).toHaveLength(40);
    expect(shown.startsWith("/guides/") && shown.endsWith("/end")).toBe(true);
  });
});
