import { expect, test } from "vitest";
import type { Todo } from "../../api/types";
import { weeksOf } from "./calendar";
import { editsOf } from "./change-many";
import { labelsIn } from "./fields";
import { isoDay } from "../../lib/dates";
import { filtersOf, monday } from "./filters";

const TUESDAY = new Date(2026, 10, 24);

test("weeks are from Monday to Sunday", () => {
  expect(isoDay(monday(TUESDAY))).toBe("2026-11-23");
  expect(isoDay(monday(new Date(2026, 10, 29)))).toBe("2026-11-23");
});

test("what an address asks for narrows, what it cannot mean does not", () => {
  const found = filtersOf(new URLSearchParams("who=3&severity=high&priority=soon&client=x&text=rope&label=links"));
  expect(found).toMatchObject({ state: "live", assignee: 3, severity: "high", text: "rope", label: "links" });
  expect(found.priority).toBeUndefined();
  expect(found.client).toBeUndefined();
  expect(filtersOf(new URLSearchParams("state=all")).state).toBeUndefined();
  expect(filtersOf(new URLSearchParams("day=2026-11-26&due=later"))).toMatchObject({
    due_from: "2026-11-26",
    due_to: "2026-11-26",
  });
  expect(filtersOf(new URLSearchParams("due=next-week")).due).toBe("next-week");
  expect(filtersOf(new URLSearchParams("due=nonsense")).due).toBeUndefined();
});

test("labels are told apart by their letters, not by their case", () => {
  expect(labelsIn(" Links, relaunch,,links ")).toEqual(["links", "relaunch"]);
});

const todo = (id: number, state: Todo["state"], labels: string[] = []) =>
  ({ id, version: id + 10, state, labels }) as Todo;
const NOTHING = { assignee: "", due: "", priority: "", state: "", reason: "", label: "" };

test("many are changed by what was chosen alone", () => {
  const chosen = [todo(1, "open", ["Links"]), todo(2, "confirmed")];
  expect(editsOf(chosen, NOTHING)).toEqual([]);
  expect(editsOf(chosen, { ...NOTHING, assignee: "nobody", label: "relaunch" })).toEqual([
    { id: 1, version: 11, assignee: null, labels: ["Links", "relaunch"] },
    { id: 2, version: 12, assignee: null, labels: ["relaunch"] },
  ]);
  expect(editsOf(chosen, { ...NOTHING, state: "doing" })).toEqual([{ id: 1, version: 11, state: "doing" }]);
  expect(editsOf(chosen, { ...NOTHING, state: "dropped", reason: "Gone" })).toEqual([
    { id: 1, version: 11, state: "dropped", drop_reason: "Gone" },
  ]);
});

test("a month is shown in whole weeks", () => {
  const weeks = weeksOf(new Date(2026, 10, 1));
  expect(weeks.map((week) => isoDay(week[0] as Date))).toEqual([
    "2026-10-26",
    "2026-11-02",
    "2026-11-09",
    "2026-11-16",
    "2026-11-23",
    "2026-11-30",
  ]);
  expect(weeks.every((week) => week.length === 7)).toBe(true);
});
