import { day } from "./words";

/** A remark as it stands in a line. */
export type Remark = { day: string; text: string; run_id: string | null; origin: string };

/** Where remarks stand in a chart over time: one mark for each day, at the run of that day where there was one, else at noon. */
export function remarkMarks(remarks: Remark[], points: { at: string; run_id: string }[]) {
  const runs = new Map(points.map((p) => [p.run_id, new Date(p.at).getTime()]));
  const marks = new Map<string, { day: string; t: number; numbers: number[]; byPeople: boolean }>();
  remarks.forEach((remark, i) => {
    const t = (remark.run_id && runs.get(remark.run_id)) || new Date(`${remark.day}T12:00:00Z`).getTime();
    const found = marks.get(remark.day) ?? { day: remark.day, t, numbers: [], byPeople: false };
    found.numbers.push(i + 1);
    found.byPeople ||= remark.origin === "member";
    marks.set(remark.day, found);
  });
  return [...marks.values()];
}

/** Where remarks stand beside a line over runs that are drawn at even distances: the place of a run, or between two by the time that had passed.
 * Those before the first run and after the last are left out. */
export function besideRuns(remarks: readonly Pick<Remark, "day" | "text">[], runs: readonly string[]) {
  const times = runs.map((at) => new Date(at).getTime());
  return remarks.flatMap((remark) => {
    const text = `${day(remark.day)}: ${remark.text}`;
    const sameDay = runs.findIndex((at) => at.slice(0, 10) === remark.day);
    if (sameDay >= 0) return [{ at: sameDay, text }];
    const t = new Date(`${remark.day}T12:00:00Z`).getTime();
    const after = times.findIndex((time) => time > t);
    if (after < 1) return [];
    const [from, to] = [times[after - 1] ?? 0, times[after] ?? 0];
    return [{ at: after - 1 + (t - from) / (to - from), text }];
  });
}
