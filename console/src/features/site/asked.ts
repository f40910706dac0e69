import type { CheckOnSite, CheckOutcome } from "../../api/types";
import { plural } from "../../lib/words";

type Asked = Pick<CheckOnSite, "subject" | "examined" | "failing" | "passed" | "not_applicable">;

const NOUNS: Record<CheckOnSite["subject"], string> = { page: "page", file: "file", group: "page", site: "site" };

/** What a check was asked of, in a sentence; empty in runs of earlier releases, which do not say. */
export function asked(check: Asked): string {
  if (check.examined == null || check.subject === "site") return "";
  const noun = NOUNS[check.subject];
  const rest = check.not_applicable ? `; does not apply to ${plural(check.not_applicable, noun)}` : "";
  if (check.examined === 0) return `Examined on no ${noun}${rest}`;
  return `Examined on ${plural(check.examined, noun)}: ${check.failing ?? 0} fail, ${check.passed ?? 0} pass${rest}`;
}

/** Why a check has no findings, as a name for a list of such checks. */
export const QUIET = {
  passed: "passed",
  "not-applicable": "nothing to look at",
  unverified: "not examined",
  off: "switched off",
} as const satisfies Partial<Record<CheckOutcome, string>>;

export type Quiet = keyof typeof QUIET;

/** Why a check has no causes. What had nothing to look at, or could not be examined, has not passed. */
export function noCauses(outcome: CheckOutcome, waived: number): string {
  switch (outcome) {
    case "waived":
      return `${plural(waived, "finding")} ${waived === 1 ? "is" : "are"} waived; apart from that, this check passes wherever it could be examined.`;
    case "not-applicable":
      return "This check had nothing to look at in this run.";
    case "unverified":
      return "This check could not be examined in this run.";
    case "off":
      return "The plan has this check switched off.";
    default:
      return "This check passes wherever it could be examined.";
  }
}
