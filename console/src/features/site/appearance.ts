/** As whom a site is crawled, in words. */
import type { Appearance, RunBrief } from "../../api/types";

export const VISITORS: Record<Appearance, string> = {
  own: "our own user agent",
  desktop: "a desktop browser",
  phone: "a phone browser",
};

/** Whether a run is one of the line of a site: others look at one moment of it once more. */
export const inLine = (run: RunBrief): boolean => run.purpose === "audit" || run.purpose === "benchmark";

/** The audit that a run with another user agent is compared with: the latest before it. */
export const auditBefore = (audits: readonly RunBrief[], run: RunBrief): RunBrief | undefined =>
  audits.find((audit) => audit.requested_at <= run.requested_at);
