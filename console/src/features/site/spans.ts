import type { FindingSight } from "../../api/types";

export type Span = {
  seen: FindingSight["seen"];
  /** When the first and the last of its runs were asked for. */
  from: string;
  to: string;
  runs: FindingSight[];
  rule_changed: boolean;
};

/** Runs in a row that saw the same, taken together; the latest first, as they come. */
export function spans(runs: readonly FindingSight[]): Span[] {
  const found: Span[] = [];
  for (const run of runs) {
    const last = found.at(-1);
    if (last?.seen === run.seen && !last.rule_changed) {
      last.runs.push(run);
      last.from = run.at;
      last.rule_changed = run.rule_changed;
    } else found.push({ seen: run.seen, from: run.at, to: run.at, runs: [run], rule_changed: run.rule_changed });
  }
  return found;
}
