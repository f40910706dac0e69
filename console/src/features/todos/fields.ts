import type { Priority, TodoState } from "../../api/types";
import type { Choice } from "../../ui/controls";

/** The most pressing first. */
export const PRIORITIES: readonly Priority[] = ["urgent", "high", "normal", "low"];
export const priorityChoices: Choice[] = PRIORITIES.map((name) => ({ value: name, label: name }));

/** Labels as they are typed, with commas between them. */
export const labelsIn = (text: string): string[] => [
  ...new Map(
    text
      .split(",")
      .map((label) => label.trim())
      .filter(Boolean)
      .map((label) => [label.toLowerCase(), label]),
  ).values(),
];

/** The steps that a to-do can take, with what the button says. */
export const NEXT: Record<TodoState, [TodoState, string][]> = {
  open: [
    ["doing", "Begin"],
    ["done", "Mark done"],
  ],
  doing: [
    ["done", "Mark done"],
    ["open", "Put back"],
  ],
  done: [["open", "Open again"]],
  confirmed: [["open", "Open again"]],
  dropped: [["open", "Open again"]],
};
