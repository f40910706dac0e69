/** Recurrence rules (RFC 5545) between the service's words and what is chosen in the form. */

export type Often = "day" | "week" | "fortnight" | "month" | "month-weekday" | "rule";

export interface Chosen {
  often: Often;
  /** Weekdays, of which there is at least one: MO to SU. */
  days: string[];
  /** Day of the month; -1 is the last. */
  monthDay: string;
  /** Which one of the month's weekdays; -1 is the last. */
  nth: string;
  /** A rule that cannot be chosen otherwise, as it is. */
  rule: string;
}

export const WEEKDAYS = [
  ["MO", "Monday"],
  ["TU", "Tuesday"],
  ["WE", "Wednesday"],
  ["TH", "Thursday"],
  ["FR", "Friday"],
  ["SA", "Saturday"],
  ["SU", "Sunday"],
] as const;

const NOTHING_SAID: Chosen = { often: "week", days: ["TU"], monthDay: "1", nth: "1", rule: "" };

export function readRule(rule: string): Chosen {
  const [word = "", rest = ""] = rule.split(":");
  const inWeek = rest.split(",").filter((d) => WEEKDAYS.some(([code]) => code === d));
  if (word === "daily" && !rest) return { ...NOTHING_SAID, often: "day" };
  if (word === "weekly" && rest.split(",").length === inWeek.length)
    return { ...NOTHING_SAID, often: "week", days: inWeek };
  if (word === "monthly" && /^(-1|[1-9]|1\d|2[0-8])$/.test(rest))
    return { ...NOTHING_SAID, often: "month", monthDay: rest };
  const fortnight = /^FREQ=WEEKLY;INTERVAL=2;BYDAY=([A-Z,]+)$/.exec(rule);
  if (fortnight?.[1]) return { ...NOTHING_SAID, often: "fortnight", days: fortnight[1].split(",") };
  const nth = /^(?:FREQ=MONTHLY;BYDAY=|monthly:)(-1|[1-4])([A-Z]{2})$/.exec(rule);
  if (nth?.[1] && nth[2]) return { ...NOTHING_SAID, often: "month-weekday", nth: nth[1], days: [nth[2]] };
  return { ...NOTHING_SAID, often: "rule", rule };
}

export function writeRule({ often, days, monthDay, nth, rule }: Chosen): string {
  const inOrder = WEEKDAYS.map(([code]) => code).filter((code) => days.includes(code));
  switch (often) {
    case "day":
      return "daily";
    case "week":
      return `weekly:${inOrder.join(",")}`;
    case "fortnight":
      return `FREQ=WEEKLY;INTERVAL=2;BYDAY=${inOrder.join(",")}`;
    case "month":
      return `monthly:${monthDay}`;
    case "month-weekday":
      return `FREQ=MONTHLY;BYDAY=${nth}${inOrder[0] ?? "MO"}`;
    case "rule":
      return rule;
  }
}
