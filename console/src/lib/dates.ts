/** Days as people type and read them in fields, in the order of their profile. Stored and sent they are ISO 8601. */

export type DateOrder = "day-first" | "month-first" | "year-first";

const ORDERS: Record<DateOrder, { separator: string; parts: readonly ("y" | "m" | "d")[]; pattern: string }> = {
  "day-first": { separator: "/", parts: ["d", "m", "y"], pattern: "dd/mm/yyyy" },
  "month-first": { separator: "/", parts: ["m", "d", "y"], pattern: "mm/dd/yyyy" },
  "year-first": { separator: "-", parts: ["y", "m", "d"], pattern: "yyyy-mm-dd" },
};

export const DATE_ORDERS: readonly DateOrder[] = ["day-first", "month-first", "year-first"];

/** Time zones to choose from. */
export const ZONES = ["UTC", ...Intl.supportedValuesOf("timeZone").filter((zone) => zone !== "UTC")].map((zone) => ({
  value: zone,
  label: zone,
}));

/** The day of a moment as ISO 8601, where the viewer is. */
export const isoDay = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, "0")}-${String(date.getDate()).padStart(2, "0")}`;

/** The day of a moment as ISO 8601, in UTC. */
export const utcDay = (date: Date) => date.toISOString().slice(0, 10);

export const datePattern = (order: DateOrder) => ORDERS[order].pattern;

/** "2026-11-26" as the profile writes it; what is no day stays as it is. */
export function writtenDay(iso: string, order: DateOrder): string {
  const found = /^(\d{4})-(\d{2})-(\d{2})$/.exec(iso);
  if (!found) return iso;
  const [, y = "", m = "", d = ""] = found;
  const { parts, separator } = ORDERS[order];
  return parts.map((part) => ({ y, m, d })[part]).join(separator);
}

/**
 * What was typed as an ISO day, or null when it is none. Dots, slashes, dashes and spaces part alike, and a day that begins
 * with the year is understood in every order. A day that no calendar has, such as 30 February, is none.
 */
export function readDay(text: string, order: DateOrder): string | null {
  const figures = text.trim().split(/[./\-\s]+/);
  if (figures.length !== 3 || figures.some((f) => !/^\d{1,4}$/.test(f))) return null;
  const parts = figures[0]?.length === 4 ? ORDERS["year-first"].parts : ORDERS[order].parts;
  const of = (part: "y" | "m" | "d") => figures[parts.indexOf(part)] ?? "";
  if (of("y").length !== 4 || of("m").length > 2 || of("d").length > 2) return null;
  const iso = `${of("y")}-${of("m").padStart(2, "0")}-${of("d").padStart(2, "0")}`;
  const date = new Date(`${iso}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && utcDay(date) === iso ? iso : null;
}

/** What was typed as HH:MM of the 24-hour clock, or null when it is none: 2:04, 02.04 and 0204 are the same. */
export function readTime(text: string): string | null {
  const found = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  if (!found) return null;
  const [, hour = "", minute = ""] = found;
  return Number(hour) < 24 && Number(minute) < 60 ? `${hour.padStart(2, "0")}:${minute}` : null;
}

/** Whether a day is typed to its end, as it is sent (ISO 8601). */
export const isDay = (text: string) => /^\d{4}-\d{2}-\d{2}$/.test(text);
