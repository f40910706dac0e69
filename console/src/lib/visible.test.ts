import { describe, expect, it } from "vitest";
import { allVisible, visible } from "./visible";

describe("texts from sites", () => {
  it.each([
    ["plain words, ä ö ü, 日本, שלום, 👍", "plain words, ä ö ü, 日本, שלום, 👍"],
    ["two\nlines\tand a tab", "two\nlines\tand a tab"],
    ["\u001b[31mred\u0007", "␛[31mred␇"],
    ["a\u0000b\u007fc\u009bd", "a␀b␡c<9B>d"],
    ["invoice\u202efdp.exe\u2066x", "invoice<U+202E>fdp.exe<U+2066>x"],
  ])("have what steers a display made visible: %j", (given, shown) => {
    expect(visible(given)).toBe(shown);
  });

  it("wherever they are in an answer, and nothing else is changed", () => {
    const given = { title: "a\u202eb", rows: [{ n: 1, none: null, yes: true, "k\u0000": ["\u0001"] }] };
    expect(allVisible(given)).toEqual({
      title: "a<U+202E>b",
      rows: [{ n: 1, none: null, yes: true, "k␀": ["␁"] }],
    });
  });
});
