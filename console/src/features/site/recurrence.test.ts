import { describe, expect, it } from "vitest";
import { readRule, writeRule } from "./recurrence";

describe("recurrence rules", () => {
  it.each([
    ["daily", "day"],
    ["weekly:TU", "week"],
    ["weekly:MO,TH", "week"],
    ["FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", "fortnight"],
    ["monthly:1", "month"],
    ["monthly:28", "month"],
    ["monthly:-1", "month"],
    ["FREQ=MONTHLY;BYDAY=1MO", "month-weekday"],
    ["FREQ=MONTHLY;BYDAY=-1FR", "month-weekday"],
    ["monthly:31", "rule"],
    ["weekly:XX", "rule"],
    ["FREQ=MONTHLY;BYDAY=5MO", "rule"],
    ["FREQ=YEARLY;COUNT=3", "rule"],
  ])("%s is chosen as every %s and comes back unchanged", (rule, often) => {
    expect(readRule(rule).often).toBe(often);
    expect(writeRule(readRule(rule))).toBe(rule);
  });
  it("keeps weekdays in the order of the week", () =>
    expect(writeRule({ ...readRule("weekly:TU"), days: ["SU", "MO"] })).toBe("weekly:MO,SU"));
});
