import { expect, test } from "vitest";
import type { Comparison, Event, RunBrief } from "../../api/types";
import { quickBases } from "./changes";
import { steps } from "./happened";

const run = (id: string, requested_at: string) => ({ id, requested_at }) as RunBrief;
const RUNS = [
  run("e", "2026-11-24T02:04:00Z"),
  run("d", "2026-11-17T02:04:00Z"),
  run("c", "2026-10-27T02:04:00Z"),
  run("b", "2026-10-20T02:04:00Z"),
  run("a", "2026-01-06T02:04:00Z"),
];

test("the quick choices are the run before, the one closest to a month before, and the first", () => {
  const found = quickBases(RUNS, "e");
  expect([found.previous?.id, found.month?.id, found.first?.id]).toEqual(["d", "c", "a"]);
});

test("the first run has nothing to be compared with, and a run that is not listed neither", () => {
  for (const head of ["a", "gone"])
    expect(Object.values(quickBases(RUNS, head))).toEqual([undefined, undefined, undefined]);
});

const event = (shown: number) => ({ shown, title: `event ${shown}` }) as Event;

test("the steps lead from the one health to the other", () => {
  const data: Partial<Comparison> = {
    base_health: 80,
    head_health: 21.5,
    base_at: "2026-11-17T02:04:00Z",
    head_at: "2026-11-24T02:04:00Z",
    events: [event(-60), event(1.5), event(0)],
  };
  const found = steps(data as Comparison);
  expect(found.map((step) => step.range)).toEqual([
    [0, 80],
    [20, 80],
    [20, 21.5],
    [21.1, 21.9],
    [0, 21.5],
  ]);
  expect(found.map((step) => step.label)).toEqual(["80.0", "−60.0", "+1.5", "0.0", "21.5"]);
  expect(found.map((step) => step.name)).toEqual(["Tue 17 Nov", "1", "2", "3", "Tue 24 Nov"]);
});
