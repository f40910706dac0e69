import { expect, test } from "vitest";
import type { Todo } from "../../api/types";
import { weeksOf } from "./calendar";
import { editsOf } from "./change-many";
import { labelsIn } from "./fields";
import { isoDay } from "../../lib/dates";
import { daysOf, filtersOf, monday } from "./filters";

const TUESDAY = new Date(2026, 10, 24);

test("the spans of due dates are weeks from Monday to Sunday, as the service counts them", () => {
  expect(isoDay(monday(TUESDAY))).toBe("2026-11-23");
  expect(isoDay(monday(new Date(2026, 10, 29)))).toBe("2026-11-23");
  expect(daysOf("this-week", TUESDAY)).toEqual({ due_from: "2026-11-24", due_to: "2026-11-29" });
  expect(daysOf("next-week", TUESDAY)).toEqual({ due_from: "2026-11-30", due_to: "2026-12-06" });
  expect(daysOf("later", TUESDAY)).toEqual({ due_from: "2026-12-07" });
  expect(daysOf("overdue", TUESDAY)).toEqual({ overdue: true });
  expect(daysOf("nonsense", TUESDAY)).toEqual({});
});

test("what an address asks for narrows, what it cannot mean does not", () => {
  const found = filtersOf(
    new URLSearchParams("who=3&severity=high&priority=soon&client=x&text=rope&label=links"),
    TUESDAY,
  );
  expect(found).toMatchObject({ state: "live", assignee: 3, severity: "high", text: "rope", label: "links" });
  expect(found.priority).toBeUndefined();
  expect(found.client).toBeUndefined();
  expect(filtersOf(new URLSearchParams("state=all"), TUESDAY).state).toBeUndefined();
  expect(filtersOf(new URLSearchParams("day=2026-11-26&due=later"), TUESDAY)).toMatchObject({
    due_from: "2026-11-26",
    due_to: "2026-11-26",
  });
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
