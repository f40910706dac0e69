import type { TodoFilters } from "../../api/queries/work";
import type { DueSpan, TodoState } from "../../api/types";
import { readDay } from "../../lib/dates";
import { PRIORITIES } from "./fields";
import { SEVERITIES } from "../../ui/signs";

export type Filters = TodoFilters;
export const STATES = ["live", "open", "doing", "done", "confirmed", "dropped"] as const satisfies (
  TodoState | "live"
)[];

export const DUE: readonly { value: DueSpan; label: string }[] = [
  { value: "overdue", label: "overdue" },
  { value: "this-week", label: "this week" },
  { value: "next-week", label: "next week" },
  { value: "later", label: "later" },
  { value: "undated", label: "without a date" },
];

const DAYS_OF_WEEK = 7;
const spanOf = (word: string | null) => DUE.find((span) => span.value === word)?.value;

/** The day so many days after another. */
export const after = (date: Date, days: number) => new Date(date.getFullYear(), date.getMonth(), date.getDate() + days);

/** The Monday of the week a day is in. */
export const monday = (date: Date) => after(date, -((date.getDay() + DAYS_OF_WEEK - 1) % DAYS_OF_WEEK));

/** What the address asks for; words that mean nothing narrow nothing. */
export function filtersOf(view: URLSearchParams): Filters {
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
    ...(day ? { due_from: day, due_to: day } : { due: spanOf(view.get("due")) }),
  };
}
