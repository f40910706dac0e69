import { describe, expect, it } from "vitest";
import { isLike } from "./findings";
import { comparedExports, runExports, workLists } from "./exports";

const run = { requested_at: "2026-12-01T02:00:00Z" };

describe("states of checks and causes", () => {
  it.each([
    ["new", { since: "2026-12-01T02:10:00Z" }, true],
    ["new", { since: "2026-12-01T02:10:00Z", times_returned: 1 }, false],
    ["new", { since: "2026-11-24T02:00:00Z" }, false],
    ["returned", { times_returned: 2 }, true],
    ["old", { since: "2026-11-01T02:00:00Z" }, true],
    ["old", { since: "2026-11-02T02:00:00Z" }, false],
    ["waived", { waived: 1 }, true],
    ["unverified", { unverified: 0 }, false],
    ["", {}, true],
  ])("%s", (state, row, expected) => {
    expect(isLike(row, state, "", run)).toBe(expected);
  });

  it("tells what is in a to-do from what is not", () => {
    expect(isLike({ todos: [{}] }, "", "yes", run)).toBe(true);
    expect(isLike({ todos: [] }, "", "yes", run)).toBe(false);
    expect(isLike({}, "", "no", run)).toBe(true);
  });
});

describe("exports", () => {
  const hrefs = (items: readonly { href: string }[]) => items.map((item) => item.href);

  it("ask for what is chosen", () => {
    expect(hrefs(runExports("r1", { severity: "high" }))).toContain("/api/v1/runs/r1/export/xlsx?severity=high");
    expect(hrefs(runExports("r1", { check: "link-broken" }))).toContain(
      "/api/v1/runs/r1/worklist?form=html&checks=link-broken&causes=",
    );
  });

  it("offer causes in no form that holds findings alone", () => {
    expect(hrefs(runExports("r1", { causes: true })).some((href) => href.includes("sarif"))).toBe(false);
  });

  it("keep the choice of a comparison", () => {
    expect(hrefs(comparedExports({ base: "a", head: "b" }, { change: "new", event: 0, check: undefined }))[0]).toBe(
      "/api/v1/comparisons/export?base=a&head=b&form=csv&change=new&event=0",
    );
  });

  it("name checks and causes of a work list", () => {
    expect(hrefs(workLists("r1", ["a", "b"], [3]))[1]).toBe("/api/v1/runs/r1/worklist?form=md&checks=a%2Cb&causes=3");
  });
});
