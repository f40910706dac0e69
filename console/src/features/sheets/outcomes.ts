import type { SheetLine, SheetOutcome } from "../../api/types";

/** What came of an item, as people read it. */
export const OUTCOMES: Record<SheetOutcome, string> = {
  open: "Not looked at",
  passed: "In order",
  recommended: "Change recommended",
  "not-applicable": "Not applicable",
};
export const DIFFERENCES: Partial<Record<SheetLine["difference"], string>> = {
  better: "better now",
  worse: "worse now",
  other: "other now",
};

/** What came of it the last time, in words; empty where nobody looked. */
export function lastTime(line: SheetLine): string {
  if (typeof line.before_number === "number") return `${line.before_number} ${line.unit}`.trim();
  return line.before_outcome ? OUTCOMES[line.before_outcome].toLowerCase() : "";
}
