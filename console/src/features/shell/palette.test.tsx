import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { Palette } from "./palette";
import { PLACES } from "./places";

const stub = service();
const HITS = [
  { kind: "site", name: "tidewrack.example", detail: "own site of Tidewrack Chandlery", link: "/sites/1" },
  { kind: "to-do", name: "Write descriptions", detail: "to-do 7 · tidewrack.example", link: "/todos/7" },
];

function palette(at = "/") {
  return show(
    [
      { path: "/", element: <><input aria-label="note" /><Palette places={PLACES} /></> },
      { path: "*", element: <><p>arrived</p><Palette places={PLACES} /></> },
    ],
    { at },
  ); // prettier-ignore
}
const options = () => screen.getAllByRole("option").map((o) => o.children[1]?.textContent);

describe("the palette", () => {
  it.each([{ key: "/" }, { key: "k", ctrlKey: true }, { key: "K", metaKey: true }])(
    "opens with %o",
    async (pressed) => {
      palette();
      fireEvent.keyDown(document.body, pressed);
      expect(await screen.findByRole("combobox", { name: "Go to" })).toBeTruthy();
      expect(options()).toEqual(PLACES.map((p) => p.label));
    },
  );
  it("leaves a slash to whoever types one", () => {
    palette();
    fireEvent.keyDown(screen.getByLabelText("note"), { key: "/" });
    expect(screen.queryByRole("combobox")).toBeNull();
  });
  it("finds what has the name and goes there with the keyboard", async () => {
    stub.answers["GET /search?text=tide&limit=12"] = { body: HITS };
    const router = palette();
    fireEvent.keyDown(document.body, { key: "/" });
    const field = await screen.findByRole("combobox");
    fireEvent.change(field, { target: { value: "tide" } });
    await waitFor(() => expect(options()).toEqual(["tidewrack.example", "Write descriptions"]));
    fireEvent.keyDown(field, { key: "ArrowDown" });
    expect(screen.getAllByRole("option")[1]?.getAttribute("aria-selected")).toBe("true");
    fireEvent.keyDown(field, { key: "Enter" });
    await waitFor(() => expect(router.state.location.pathname).toBe("/todos/7"));
    expect(screen.queryByRole("combobox")).toBeNull();
  });
  it("offers the places of the site that is looked at", async () => {
    const router = palette("/sites/4/trend");
    fireEvent.keyDown(document.body, { key: "/" });
    fireEvent.change(await screen.findByRole("combobox"), { target: { value: "inv" } });
    await waitFor(() => expect(options()).toEqual(["Inventory"]));
    fireEvent.click(screen.getByRole("option"));
    await waitFor(() => expect(router.state.location.pathname).toBe("/sites/4/inventory"));
  });
  it("says when there is nothing, and when it cannot look", async () => {
    palette();
    stub.answers["GET /search?text=zzz&limit=12"] = { body: [] };
    fireEvent.keyDown(document.body, { key: "/" });
    const field = await screen.findByRole("combobox");
    fireEvent.change(field, { target: { value: "zzz" } });
    expect(await screen.findByText(/Nothing of that name/)).toBeTruthy();
    stub.answers["GET /search?text=zzzz&limit=12"] = {
      status: 503,
      body: { detail: "The register is busy.", hint: "" },
    };
    fireEvent.change(field, { target: { value: "zzzz" } });
    expect((await screen.findByRole("alert")).textContent).toContain("The register is busy.");
  });
});
