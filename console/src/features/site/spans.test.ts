import { expect, test } from "vitest";
import type { FindingSight } from "../../api/types";
import { spans } from "./spans";

const run = (day: number, seen: FindingSight["seen"], rule_changed = false): FindingSight => ({
  run_id: String(day),
  at: `2026-11-${day}T02:00:00Z`,
  seen,
  rule_changed,
});

test("runs in a row that saw the same are one line, the latest first", () => {
  const found = spans([run(24, "open"), run(17, "passed"), run(12, "open"), run(10, "open")]);
  expect(found.map((s) => [s.seen, s.from.slice(8, 10), s.to.slice(8, 10), s.runs.length])).toEqual([
    ["open", "24", "24", 1],
    ["passed", "17", "17", 1],
    ["open", "10", "12", 2],
  ]);
});

test("a changed rule begins a line of its own", () => {
  expect(spans([run(24, "open"), run(17, "open", true), run(10, "open")]).map((s) => s.runs.length)).toEqual([2, 1]);
});

test("no runs give no lines", () => {
  expect(spans([])).toEqual([]);
});
