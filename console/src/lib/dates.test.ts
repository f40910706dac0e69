import { describe, expect, it } from "vitest";
import { type DateOrder, datePattern, readDay, readTime, writtenDay } from "./dates";

const ORDERS: DateOrder[] = ["day-first", "month-first", "year-first"];

describe("days in fields", () => {
  it.each([
    ["day-first", "26/11/2026", "dd/mm/yyyy"],
    ["month-first", "11/26/2026", "mm/dd/yyyy"],
    ["year-first", "2026-11-26", "yyyy-mm-dd"],
  ] as const)("%s are written %s", (order, text, pattern) => {
    expect(writtenDay("2026-11-26", order)).toBe(text);
    expect(datePattern(order)).toBe(pattern);
  });
  it.each(ORDERS)("%s: every day of a year is read as it was written", (order) => {
    for (let t = Date.UTC(2028, 0, 1); t < Date.UTC(2029, 0, 1); t += 86_400_000) {
      const iso = new Date(t).toISOString().slice(0, 10);
      expect(readDay(writtenDay(iso, order), order)).toBe(iso);
    }
  });
  it("are understood however they are parted, and with the year first in every order", () => {
    expect(readDay("4.12.2026", "day-first")).toBe("2026-12-04");
    expect(readDay(" 12 4 2026 ", "month-first")).toBe("2026-12-04");
    expect(readDay("2026-12-04", "day-first")).toBe("2026-12-04");
  });
  it.each(["", "soon", "30/02/2026", "13/13/2026", "1/2", "04/12/26", "1/2/3/2026"])("%o is no day", (text) =>
    expect(readDay(text, "day-first")).toBeNull(),
  );
});

describe("times in fields", () => {
  it.each([
    ["02:04", "02:04"],
    ["2:04", "02:04"],
    ["2.04", "02:04"],
    ["0204", "02:04"],
    ["23:59", "23:59"],
  ])("%s is %s", (text, time) => expect(readTime(text)).toBe(time));
  it.each(["", "24:00", "12:60", "noon", "1:2"])("%o is none", (text) => expect(readTime(text)).toBeNull());
});
