import { expect, test } from "vitest";
import { besideRuns, type Remark, remarkMarks } from "./remark-marks";

const remark = (day: string, more: Partial<Remark> = {}): Remark => ({
  day,
  text: "New theme",
  origin: "member",
  run_id: null,
  ...more,
});

test("remarks of one day share a mark, which is a person's as soon as one of them is", () => {
  const points = [{ run_id: "r2", at: "2026-11-10T02:04:00Z" }];
  const remarks = [remark("2026-11-10", { origin: "plan", run_id: "r2" }), remark("2026-11-10"), remark("2026-11-12")];
  expect(remarkMarks(remarks, points)).toEqual([
    { day: "2026-11-10", t: Date.parse("2026-11-10T02:04:00Z"), numbers: [1, 2], byPeople: true },
    { day: "2026-11-12", t: Date.parse("2026-11-12T12:00:00Z"), numbers: [3], byPeople: true },
  ]);
});

test("beside evenly drawn runs a remark stands at its run, or between two by time", () => {
  const runs = ["2026-11-03T00:00:00Z", "2026-11-10T00:00:00Z", "2026-11-17T00:00:00Z"];
  const at = (day: string) => besideRuns([remark(day)], runs).map((m) => m.at);
  expect(at("2026-11-10")).toEqual([1]);
  expect(at("2026-11-13")[0]).toBeCloseTo(1.5);
  expect(at("2026-11-01")).toEqual([]);
  expect(at("2026-11-20")).toEqual([]);
});
