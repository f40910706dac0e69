import type { TodoFilters } from "../../api/queries/work";
import type { TodoState } from "../../api/types";
import { isoDay, readDay } from "../../lib/dates";
import { PRIORITIES } from "./fields";
import { SEVERITIES } from "../../ui/signs";
import type { Choice } from "../../ui/controls";

export type Filters = TodoFilters;
export const STATES = ["live", "open", "doing", "done", "confirmed", "dropped"] as const satisfies (
  TodoState | "live"
)[];

export const DUE: readonly Choice[] = [
  { value: "overdue", label: "overdue" },
  { value: "this-week", label: "this week" },
  { value: "next-week", label: "next week" },
  { value: "later", label: "later" },
];

const DAYS_OF_WEEK = 7;

/** The day so many days after another. */
export const after = (date: Date, days: number) => new Date(date.getFullYear(), date.getMonth(), date.getDate() + days);

/** The Monday of the week a day is in. */
export const monday = (date: Date) => after(date, -((date.getDay() + DAYS_OF_WEEK - 1) % DAYS_OF_WEEK));

/** The days between which a span of due dates lies. */
export function daysOf(span: string, today: Date): Pick<Filters, "overdue" | "due_from" | "due_to"> {
  const week = monday(today);
  if (span === "overdue") return { overdue: true };
  if (span === "this-week") return { due_from: isoDay(today), due_to: isoDay(after(week, DAYS_OF_WEEK - 1)) };
  if (span === "next-week")
    return { due_from: isoDay(after(week, DAYS_OF_WEEK)), due_to: isoDay(after(week, 2 * DAYS_OF_WEEK - 1)) };
  if (span === "later") return { due_from: isoDay(after(week, 2 * DAYS_OF_WEEK)) };
  return {};
}

/** What the address asks for; words that mean nothing narrow nothing. */
export function filtersOf(view: URLSearchParams, today: Date): Filters {
  const number = (name: string) => (/^\d+$/.test(view.get(name) ?? "") ? Number(view.get(name)) : undefined);
  const state = view.get("state");
  const day = readDay(view.get("day") ?? "", "year-first");
  return {
    state: state === "all" ? undefined : (STATES.find((name) => name === state) ?? "live"),
    assignee: number("who"),
    client: number("client"),
    label: view.get("label") ?? undefined,
    severity: SEVERITIES.find((name) => name === view.get("severity")),
    priority: PRIORITIES.find((name) => name === view.get("priority")),
    text: view.get("text") ?? undefined,
    ...(day ? { due_from: day, due_to: day } : daysOf(view.get("due") ?? "", today)),
  };
}
