import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { Combo } from "./combo";

const ZONES = ["UTC", "Europe/London", "America/New_York", "America/Argentina/San_Juan"];

function Shown({ choices = ZONES }: { choices?: readonly string[] }) {
  const [value, setValue] = useState("UTC");
  return <Combo value={value} onChange={setValue} choices={choices} />;
}

const field = () => screen.getByRole<HTMLInputElement>("combobox");
const offered = () => screen.getAllByRole("option").map((o) => o.textContent);
const press = (key: string) => fireEvent.keyDown(field(), { key });

describe("a choice among many", () => {
  afterEach(cleanup);
  it("is found by any part of its name, underscores or not", () => {
    render(<Shown />);
    fireEvent.change(field(), { target: { value: "new y" } });
    expect(offered()).toEqual(["America/New York"]);
    press("Enter");
    expect(field().value).toBe("America/New_York");
    expect(screen.queryByRole("option")).toBeNull();
  });
  it("is walked through by the arrows, and left as it was by Escape", () => {
    render(<Shown />);
    press("ArrowDown");
    expect(offered()).toHaveLength(4);
    press("ArrowDown");
    expect(screen.getByRole("option", { selected: true }).textContent).toBe("Europe/London");
    press("Escape");
    expect(field().value).toBe("UTC");
  });
  it("says when nothing is called so, and takes nothing then", () => {
    render(<Shown />);
    fireEvent.change(field(), { target: { value: "mars" } });
    expect(screen.getByText("Nothing is called “mars”.")).toBeTruthy();
    press("Enter");
    expect(field().value).toBe("UTC");
  });
  it("shows a part of a long list and says so", () => {
    render(<Shown choices={Array.from({ length: 400 }, (_, i) => `Zone/${i}`)} />);
    fireEvent.click(field());
    expect(offered()).toHaveLength(50);
    expect(screen.getByText("Type to find more.")).toBeTruthy();
  });
});
