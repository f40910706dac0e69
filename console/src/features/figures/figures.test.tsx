import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { FigurePreview, Site } from "../../api/types";
import { choose, ME, service, show } from "../../testing";
import { Backlinks } from "./backlinks";
import { outcomeWords } from "./outcome";
import { Positions } from "./positions";
import { SearchFigures } from "./search";
import { Tables } from "./tables";

const stub = service();
const SITE = { id: 9, host: "a.example", kind: "own" } as Site;
const MAY = { ...ME, may: [...ME.may, "list_figures", "list_figure_files", "add_figure_file", "remove_figure_file"] };
const FIELDS = [
  { name: "day", head: "Day", needed: true },
  { name: "clicks", head: "Clicks", needed: true },
  { name: "device", head: "Device", needed: false },
];
const LAYOUT = {
  kind: "search",
  sheet: "",
  head_row: 1,
  columns: { clicks: 2 },
  fixed: {},
  days: "dmy",
  decimals: "point",
};

function open(more: Partial<FigurePreview> = {}) {
  const preview = {
    layout: LAYOUT,
    fields: FIELDS,
    missing: ["day"],
    heads: ["When", "Clicks"],
    rows: [],
    readable: 0,
    ...more,
  };
  const table = {
    id: 4,
    site_id: 9,
    name: "t.csv",
    source: "t.csv",
    kind: "search",
    stage: "waiting",
    at: "2026-11-02",
  };
  const outcome = { new: 3, same: 0, replaced: 1, repeated: 0, left_out: 2 };
  Object.assign(stub.answers, {
    "GET /session": { body: MAY },
    "GET /sites/9/figures": { body: [] },
    "GET /sites/9/figure-files": { body: [table] },
    "GET /sites/9/figure-files/4": { body: { ...table, preview } },
    "PUT /sites/9/figure-files/4/layout": { body: { ...table, preview } },
    "POST /sites/9/figure-files/4/import": { body: { ...table, stage: "imported", outcome } },
  });
  show(<Tables site={SITE} />);
}

const sent = (method: string) => stub.sent.filter((each) => each.method === method).map((each) => each.body);

test("what is missing is said, and nothing can be imported until it is named", async () => {
  open();
  expect(await screen.findByText(/Nothing says what is the Day/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Import 0/ }).disabled).toBe(true);
  await choose("Day (needed)", "When");
  await waitFor(() => expect(sent("PUT")).toEqual([{ layout: { ...LAYOUT, columns: { clicks: 2, day: 1 } } }]));
});

test("what holds for all rows is typed, and the row of the headings and the source are corrected", async () => {
  open({ missing: [], readable: 2 });
  await choose("Device", "the same in all rows…");
  const fixed = await screen.findByLabelText("Device in all rows");
  fireEvent.change(fixed, { target: { value: "phone" } });
  fireEvent.blur(fixed);
  const row = screen.getByLabelText<HTMLInputElement>("Headings in row");
  fireEvent.change(row, { target: { value: "first" } });
  fireEvent.blur(row);
  expect(row.value).toBe("1");
  fireEvent.change(row, { target: { value: "3" } });
  fireEvent.blur(row);
  const source = screen.getByLabelText("Source");
  fireEvent.change(source, { target: { value: "Export of November" } });
  fireEvent.blur(source);
  await waitFor(() =>
    expect(sent("PUT").slice(1)).toEqual([
      { layout: { ...LAYOUT, fixed: { device: "phone" } } },
      { layout: { ...LAYOUT, fixed: { device: "phone" }, head_row: 3 } },
      { source: "Export of November" },
    ]),
  );
});

test("rows that cannot be read are named, and left out only when somebody says so", async () => {
  open({ missing: [], readable: 4, unreadable: 2, problems: [{ row: 7, text: "Day: “Total” is no day" }] });
  expect(await screen.findByText("Row 7: Day: “Total” is no day.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Import 4 rows, leave out 2" }));
  await waitFor(() => expect(sent("POST")).toEqual([{ leave_out: true }]));
  expect(await screen.findByText("Imported t.csv: 3 new, 1 in place of others, 2 left out.")).toBeTruthy();
});

test("a table that is still being read can be taken back", async () => {
  open();
  stub.answers["GET /sites/9/figure-files/4"] = { body: { id: 4, name: "t.csv", stage: "waiting", preview: null } };
  fireEvent.click(await screen.findByRole("button", { name: "Don’t import" }));
  await waitFor(() => expect(sent("DELETE")).toHaveLength(1));
});

test("what rows have done is said without what they have not", () => {
  const none = { new: 0, same: 0, replaced: 0, repeated: 0, left_out: 0 };
  expect(outcomeWords(none)).toBe("no rows");
  expect(outcomeWords({ ...none, same: 1200 })).toBe("1,200 as they were");
});

test("without figures each place says what table would fill it", async () => {
  stub.answers["GET /session"] = { body: MAY };
  show(
    <>
      <SearchFigures site={SITE} />
      <Positions site={SITE} />
      <Backlinks site={SITE} />
    </>,
  );
  for (const title of ["No search figures yet", "No positions yet", "No links from other sites yet"])
    expect(await screen.findByText(title)).toBeTruthy();
  expect(screen.getAllByRole("link", { name: "Import a table" })).toHaveLength(3);
});
