import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import { service, show } from "../../testing";
import { scheduleValues } from "../site/schedule-fields";
import { ChangeSites, pickOf } from "./change-sites";
import { day } from "../../lib/words";
import { spans } from "./client";
import { daysIn } from "./client-settings";
import { guestsIn } from "./new-client";
import { shown, todosIn } from "./presets";
import { byDay, mondayOf, stateOf } from "./week";

const stub = service();
const NOTHING = {
  ...scheduleValues("weekly:TU", "02:00", "UTC"),
  preset: "",
  doing: "stays" as const,
  until: "",
  pages_max: "",
  rate_per_s: "",
  add: "",
  remove: "",
};

describe("what is asked of the service", () => {
  test("nothing, when nothing was chosen", () => expect(pickOf([1], NOTHING, "weekly:TU")).toBeNull());
  test.each([
    [{ rate_per_s: "2" }, { values: { rate_per_s: 2 } }],
    [{ doing: "pause" as const }, { paused: true }],
    [{ doing: "resume" as const }, { paused: false }],
    [{ doing: "none" as const }, { no_schedule: true }],
    [
      { add: "retail, Peak", remove: "old" },
      { add_tags: ["retail", "Peak"], remove_tags: ["old"] },
    ],
    [
      { doing: "set" as const, at: "01:00", until: "05:00" },
      { schedule: { rule: "daily", at: "01:00", until: "05:00", zone: "UTC", mail_to: [] } },
    ],
  ])("%o", (given, wanted) => expect(pickOf([1], { ...NOTHING, ...given }, "daily")).toMatchObject(wanted));
});

describe("several sites", () => {
  const site = { id: 7, host: "shop.example", client_name: "Rope", tags: [] };
  const draft = (differences: object[]) => [
    { change: { site_id: 7, tags: ["x"] }, host: "shop.example", client_name: "Rope", differences, next_due_at: null },
  ];

  async function preview(differences: object[]) {
    stub.answers["GET /presets"] = { body: [] };
    stub.answers["POST /sites/changes/plan"] = { body: draft(differences) };
    stub.answers["POST /sites/changes"] = { body: { changed: 1, undo: [{ site_id: 7, tags: [] }] } };
    show(<ChangeSites sites={[site] as never} done={() => undefined} />);
    fireEvent.click(screen.getByText("Change…"));
    fireEvent.change(await screen.findByLabelText("Add tags"), { target: { value: "x" } });
    fireEvent.click(screen.getByText("Show what changes"));
  }

  test("are shown with what changes before anything does, and then changed as shown", async () => {
    await preview([{ name: "Tags", before: "none", after: "x" }]);
    expect(await screen.findByText("1 site of 1 would change.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Change 1 site" }));
    await waitFor(() =>
      expect(stub.sent.filter((s) => s.path === "/sites/changes").map((s) => s.body)).toEqual([
        { changes: [{ site_id: 7, tags: ["x"] }] },
      ]),
    );
    expect(await screen.findByText("1 site changed.")).toBeTruthy();
  });

  test("that are so already are left alone", async () => {
    await preview([]);
    expect(await screen.findByText(/so already/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Change 0 sites" })).toHaveProperty("disabled", true);
  });
});

describe("what is typed", () => {
  test.each([
    ["2026-12-25\n2026-12-24, 2026-12-25", ["2026-12-24", "2026-12-25"]],
    ["", []],
    ["25 Dec", null],
    ["2026-13-01", null],
  ])("days: %j", (text, days) => expect(daysIn(text)).toEqual(days));

  test.each([
    ["Rosa Penhallow rosa@a.example", [{ name: "Rosa Penhallow", email: "rosa@a.example" }]],
    [
      "Rosa <rosa@a.example>\n\nJory, jory@a.example",
      [
        { name: "Rosa", email: "rosa@a.example" },
        { name: "Jory", email: "jory@a.example" },
      ],
    ],
    ["rosa@a.example", null],
    ["Rosa", null],
    ["", []],
  ])("people: %j", (text, people) => expect(guestsIn(text)).toEqual(people));

  test("to-dos keep what a line does not say", () => {
    const before = [{ title: "Ask for the logs", note: "By mail", days: 3, priority: "high", labels: ["x"] }];
    expect(todosIn("Ask for the logs, 5 days\nAgree on targets\n", before as never)).toEqual([
      { title: "Ask for the logs", note: "By mail", days: 5, priority: "high", labels: ["x"] },
      { title: "Agree on targets", days: null },
    ]);
  });

  test.each([
    [true, "on"],
    [2000, "2,000"],
    [["a", "b"], "a, b"],
    [{ words_min: 80 }, "words_min 80"],
    ["", "none"],
  ])("a setting: %j", (value, words) => expect(shown(value)).toBe(words));
});

test("days that follow one another are read as a span", () => {
  const words = spans(["2026-12-18", "2026-12-19", "2026-12-20", "2026-12-24", "2027-01-01"]);
  expect(words).toBe(`${day("2026-12-18")} to ${day("2026-12-20")}, ${day("2026-12-24")}, ${day("2027-01-01")}`);
  expect(spans([])).toBe("");
});

describe("the week", () => {
  const run = (at: string, more = {}) => ({ site_id: 1, host: "a", client_name: "A", at, run_id: null, ...more });

  test.each(["2026-11-23", "2026-11-25", "2026-11-29"])("begins on Monday: %s", (text) =>
    expect(mondayOf(new Date(`${text}T12:00:00`)).getDate()).toBe(23),
  );

  test("has each run on its day of the viewer's calendar, and none twice", () => {
    const monday = mondayOf(new Date("2026-11-25T12:00:00"));
    const runs = [
      run("2026-11-22T12:00:00"),
      run("2026-11-23T12:00:00"),
      run("2026-11-29T12:00:00"),
      run("2026-11-30T12:00:00"),
    ];
    const days = byDay({ runs } as never, monday);
    expect(days.map((d) => d.runs.length)).toEqual([1, 0, 0, 0, 0, 0, 1]);
  });

  test.each([
    [{}, "planned"],
    [{ retry: true }, "second attempt"],
    [{ paused: true }, "paused"],
    [{ run_id: "r", state: "failed", reason: "no answer" }, "failed: no answer"],
    [{ run_id: "r", state: "done", health: 88.24 }, "health 88.2"],
    [{ run_id: "r", state: "crawling", health: null }, "crawling"],
  ])("says what became of a run: %o", (more, words) =>
    expect(stateOf(run("2026-11-23T12:00:00", more) as never)).toBe(words),
  );
});
