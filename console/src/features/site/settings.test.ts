import { describe, expect, it } from "vitest";
import { addressesIn, inWords, read, write } from "./settings";

describe("settings of a plan", () => {
  it.each([
    ["lines", ["/shop/*", "/help/*"], "/shop/*\n/help/*"],
    ["lines", [], ""],
    ["number", 2.5, "2.5"],
    ["text", "own", "own"],
    ["figures", { words_min: 120 }, "words_min = 120"],
    [
      "severities",
      { "text-thin": { severity: "low", reason: "Short, on purpose" } },
      "text-thin = low, Short, on purpose",
    ],
    ["pairs", { "a.example:80": "127.0.0.1:81" }, "a.example:80 = 127.0.0.1:81"],
  ])("%s go to the form and come back unchanged", (kind, value, shown) => {
    expect(read(kind, value)).toBe(shown);
    expect(write(kind, shown)).toEqual(value);
  });
  it("keeps switches", () => expect(write("switch", read("switch", true))).toBe(true));
  it("leaves out blank lines and blanks around", () => expect(write("lines", " /a \n\n /b")).toEqual(["/a", "/b"]));
  it("sends what is no number as it is, for the service to answer", () => {
    expect(write("number", "many")).toBe("many");
    expect(write("figures", "words_min = many")).toEqual({ words_min: "many" });
  });
  it("reads addresses from text and tables", () =>
    expect(addressesIn('URL,Visits\r\n"https://a.example/",3\nhttps://a.example/b\nhttps://a.example/b')).toEqual({
      addresses: ["https://a.example/", "https://a.example/b"],
      unusable: "",
    }));
  it("tells the lines of a list that hold no address", () =>
    expect(addressesIn("/a\n# ours\n\n/b\n/c\n/d\nhttps://a.example/e").unusable).toBe(
      "4 lines without a full web address left out (line 1: /a; line 4: /b; line 5: /c; …).",
    ));
  it("shows a setting that is not there yet as empty", () => expect(read("lines", undefined)).toBe(""));
});

it.each([
  ["seconds", "14400", "4 h 0 min"],
  ["seconds", "20", ""],
  ["bytes", "20971520", "20.0 MiB"],
  ["bytes", "12", ""],
  ["pages", "10000", ""],
  ["seconds", "soon", ""],
])("%s %s in words: %s", (unit, text, words) => expect(inWords(unit, text)).toBe(words));
