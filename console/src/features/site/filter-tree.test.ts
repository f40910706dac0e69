import { describe, expect, it } from "vitest";
import type { Filter, InventoryColumn } from "../../api/types";
import { type Condition, groupOf, narrowed, writtenCondition, writtenGroup } from "./filter-tree";

const kinds = new Map(
  Object.entries({ status: "number", title: "text", indexable: "flag", last_modified: "day" }).map(([name, kind]) => [
    name,
    { name, kind } as InventoryColumn,
  ]),
);
const condition = (column: string, operator: Condition["operator"], ...values: string[]): Condition => ({
  column,
  operator,
  values,
  not: false,
});

describe("a filter that is put together", () => {
  it("writes each condition as the service reads it", () => {
    const text = (one: Condition) => writtenCondition(one, kinds.get(one.column)?.kind ?? "text");
    expect(text(condition("status", "=", "404"))).toBe("status = 404");
    expect(text(condition("status", "between", "300", "399"))).toBe("status between 300 and 399");
    expect(text(condition("title", "contains", 'a "b"'))).toBe('title contains "a \\"b\\""');
    expect(text({ ...condition("title", "contains", "rope"), not: true })).toBe("title not contains rope");
    expect(text(condition("title", "=", "and"))).toBe('title = "and"');
    expect(text({ ...condition("title", "is empty"), not: true })).toBe("title is not empty");
    expect(text({ ...condition("status", "<", "5"), not: true })).toBe("not (status < 5)");
    expect(text(condition("indexable", "=", "no"))).toBe("indexable = no");
    expect(text(condition("title", "in", "a", "b c"))).toBe('title in (a, "b c")');
  });

  it("puts groups into brackets where they need them", () => {
    const group = {
      any: false,
      parts: [
        condition("status", "=", "200"),
        { any: true, parts: [condition("title", "is empty"), condition("status", ">", "3")] },
        { any: true, parts: [condition("indexable", "=", "yes")] },
      ],
    };
    expect(writtenGroup(group, kinds)).toBe("status = 200 and (title is empty or status > 3) and indexable = yes");
    expect(writtenGroup({ any: false, parts: [] }, kinds)).toBe("");
  });

  it("is taken apart again", () => {
    const one = (column: string): Filter => ({ kind: "condition", column, operator: "=", values: [true], parts: [] });
    const not = (part: Filter): Filter => ({ kind: "not", column: "", operator: null, values: [], parts: [part] });
    const all = (...parts: Filter[]): Filter => ({ kind: "all", column: "", operator: null, values: [], parts });
    expect(groupOf(all(one("a"), not(one("b"))))?.parts).toEqual([
      { column: "a", operator: "=", values: ["yes"], not: false },
      { column: "b", operator: "=", values: ["yes"], not: true },
    ]);
    expect(groupOf(not(all(one("a"), one("b"))))).toBeNull();
    expect(groupOf(all())).toEqual({ any: false, parts: [] });
  });

  it("is narrowed by what is clicked", () => {
    expect(narrowed("", "status = 404")).toBe("status = 404");
    expect(narrowed("a = 1 or b = 2", "c = 3")).toBe("(a = 1 or b = 2) and c = 3");
    expect(narrowed("a = 1", "c = 3")).toBe("a = 1 and c = 3");
  });
});
