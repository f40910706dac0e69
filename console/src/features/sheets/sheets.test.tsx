import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Sheet, SheetLine } from "../../api/types";
import { choose, ME, service, show } from "../../testing";
import { SheetsScreen } from "./list";
import { lastTime } from "./outcomes";
import { SheetScreen } from "./sheet";

const stub = service();
const MAY = {
  ...ME,
  may: [
    ...ME.may,
    "start_sheet",
    "answer_sheet",
    "add_sheet_todos",
    "remove_sheet",
    "add_sheet_template",
    "remove_sheet_template",
  ],
};
const line = (key: string, more: Partial<SheetLine> = {}): SheetLine => ({
  key,
  text: `The ${key}`,
  how: "",
  asks: "outcome",
  unit: "",
  outcome: "open",
  number: null,
  note: "",
  source: "",
  author: "",
  difference: "first",
  files: [],
  ...more,
});
const SHEET: Sheet = {
  id: 4,
  site_id: 9,
  site_host: "a.example",
  template: "first-visit",
  name: "First visit",
  day: "2026-12-01",
  author: "Imke",
  sentence: "2 of 3 items looked at.",
  counts: {},
  before_id: 3,
  before_day: "2026-11-01",
  parts: [
    {
      title: "Basket",
      lines: [
        line("basket", { outcome: "recommended", before_outcome: "passed", difference: "worse" }),
        line("titles", { outcome: "passed", source: "audit of 1 December 2026" }),
        line("reviews", { asks: "number", unit: "reviews", number: 41 }),
      ],
    },
  ],
};
const sent = (method: string) => stub.sent.filter((each) => each.method === method).map((each) => each.body);

function open() {
  Object.assign(stub.answers, {
    "GET /session": { body: MAY },
    "GET /sheets/4": { body: SHEET },
    "PATCH /sheets/4": { body: SHEET },
    "POST /sheets/4/todos": { body: [{ id: 7 }] },
    "DELETE /sheets/4": { status: 204, body: null },
  });
  return show(
    [
      { path: "/s/:sheetId", element: <SheetScreen /> },
      { path: "/sites/9/review", element: <p>the list</p> },
    ],
    {
      at: "/s/4",
    },
  );
}

test("what came of an item is written down, with what was seen", async () => {
  open();
  expect(await screen.findByText("From the audit of 1 December 2026")).toBeTruthy();
  expect(screen.getByText("worse now")).toBeTruthy();
  const group = await screen.findByRole("group", { name: "Outcome: The basket" });
  fireEvent.click([...group.querySelectorAll("button")].find((each) => each.textContent === "In order") ?? group);
  await waitFor(() =>
    expect(sent("PATCH").at(-1)).toEqual({ answers: [{ item: "basket", outcome: "passed" }], table: "" }),
  );
  const note = screen.getByLabelText("Note: The basket");
  fireEvent.change(note, { target: { value: "Lost after an hour." } });
  fireEvent.blur(note);
  await waitFor(() =>
    expect(sent("PATCH").at(-1)).toEqual({ answers: [{ item: "basket", note: "Lost after an hour." }], table: "" }),
  );
});

test("a number that is none is not sent", async () => {
  open();
  const number = await screen.findByLabelText("Number: The reviews");
  fireEvent.change(number, { target: { value: "4,5" } });
  fireEvent.blur(number);
  expect(await screen.findByText("Write a number, with decimals after a point.")).toBeTruthy();
  expect(sent("PATCH")).toEqual([]);
  fireEvent.change(number, { target: { value: "4.5" } });
  fireEvent.blur(number);
  await waitFor(() => expect(sent("PATCH")).toEqual([{ answers: [{ item: "reviews", number: 4.5 }], table: "" }]));
});

test("to-dos are made of what is recommended, and a sheet is removed", async () => {
  const router = open();
  fireEvent.click(await screen.findByRole("button", { name: "Create 1 to-do" }));
  await waitFor(() => expect(sent("POST")).toEqual([{ items: ["basket"], priority: "normal" }]));
  fireEvent.click(screen.getByRole("button", { name: "Remove this sheet" }));
  await waitFor(() => expect(router.state.location.pathname).toBe("/sites/9/review"));
});

test("a sheet is begun from a template", async () => {
  const template = {
    id: "first-visit",
    name: "First visit",
    note: "",
    ships: true,
    sections: [],
    items: 20,
    version: 1,
  };
  const own = { ...template, id: "2", name: "Our own", ships: false };
  Object.assign(stub.answers, {
    "GET /session": { body: MAY },
    "GET /sites/9/sheets": { body: [] },
    "GET /sheet-templates": { body: [template, own] },
    "POST /sites/9/sheets": { body: { ...SHEET, id: 5 } },
    "DELETE /sheet-templates/2": { status: 204, body: null },
  });
  const router = show(<SheetsScreen />, { context: { site: { id: 9, host: "a.example" } } });
  expect(await screen.findByText(/No sheets yet\. Begin one/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Remove the template First visit" })).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Remove the template Our own" }));
  await waitFor(() => expect(sent("DELETE")).toHaveLength(1));
  await choose("Template", "Our own");
  fireEvent.click(screen.getByRole("button", { name: "Begin a sheet" }));
  await waitFor(() => expect(sent("POST")).toEqual([{ template: "2" }]));
  await waitFor(() => expect(router.state.location.pathname).toBe("/sites/9/review/5"));
});

test("what came of it the last time is said", () => {
  expect(lastTime(line("a"))).toBe("");
  expect(lastTime(line("a", { before_outcome: "not-applicable" }))).toBe("not applicable");
  expect(lastTime(line("a", { before_number: 4.5, unit: "stars" }))).toBe("4.5 stars");
});
