import { expect, test } from "vitest";
import { beingMentioned, withMention } from "./mentions";

test.each([
  ["@", ""],
  ["Please look, @im", "im"],
  ["@Imke Al", "Imke Al"],
  ["imke@cobble", null],
  ["no at", null],
  ["@imke, and now more", null],
])("in %j, what is being mentioned is %j", (text, name) => {
  expect(beingMentioned(text)).toBe(name);
});

test("a name is written out where it was begun", () => {
  expect(withMention("Please look, @im", "Imke Aldersgate")).toBe("Please look, @Imke Aldersgate ");
  expect(withMention("nobody", "Imke Aldersgate")).toBe("nobody");
});
