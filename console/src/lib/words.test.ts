import { describe, expect, it } from "vitest";
import { age, bytes, gain, gap, measure, place, plural, shorten, signed, span } from "./words";

describe("figures in words", () => {
  it.each([
    [1.25, "+1.3"],
    [-17.9, "−17.9"],
    [0.01, "0.0"],
    [null, ""],
  ])("shows the change %s as %s", (n, text) => expect(signed(n)).toBe(text));
  it.each([
    [1, "page", "1 page"],
    [2, "sample address", "2 sample addresses"],
    [2, "page", "2 pages"],
    [1200, "fix", "1,200 fixes"],
  ])("counts %s %s", (n, noun, text) => expect(plural(n, noun)).toBe(text));
  it.each([
    [42, "42 s"],
    [125, "2 min 5 s"],
    [7320, "2 h 2 min"],
  ])("shows %s seconds as %s", (n, text) => expect(span(n)).toBe(text));
  it("calls no gain none", () => expect(gain(0)).toBe("none"));
  it("shows a gap of bytes in a readable unit", () => expect(gap(-2230, "bytes")).toBe("−2.2 KiB"));
  it.each([
    [97.85, "points", "97.9"],
    [60, "%", "60.0 %"],
    [1_570_000, "bytes", "1,533.2 KiB"],
    [350, "ms", "350 ms"],
    [null, "ms", "–"],
  ])("shows a measure of %s %s", (n, unit, text) => expect(measure(n, unit)).toBe(text));
  it("says level where there is no gap", () => expect(gap(0, "%")).toBe("level"));
  it("does not call a small gain nothing", () => expect(gain(0.01)).toBe("under 0.1"));
  it.each([
    [10, "10 B"],
    [2048, "2.0 KiB"],
    [3 * 1_048_576, "3.0 MiB"],
  ])("shows %s bytes", (n, text) => expect(bytes(n)).toBe(text));
});

describe("age", () => {
  const now = new Date("2026-11-24T12:00:00Z");
  it.each([
    ["2026-11-24T02:00:00Z", "new"],
    ["2026-11-21T02:00:00Z", "3 days"],
    ["2026-10-20T02:00:00Z", "5 weeks"],
    ["2026-05-20T02:00:00Z", "6 months"],
  ])("of %s is %s", (since, text) => expect(age(since, now)).toBe(text));
});

describe("addresses", () => {
  it("shows the path on the own host", () => expect(place("https://a.example/x/y", "a.example")).toBe("/x/y"));
  it("keeps another scheme visible", () => expect(place("http://a.example/x", "a.example")).toBe("http://a.example/x"));
  it("keeps another host whole", () => expect(place("https://b.example/x", "a.example")).toBe("https://b.example/x"));
  it("shortens in the middle", () => {
    const short = shorten("/a/very/long/path/to/a/page/that/matters", 20);
    expect(short).toHaveLength(20);
    expect(short.startsWith("/a/very")).toBe(true);
    expect(short.endsWith("matters")).toBe(true);
  });
});
