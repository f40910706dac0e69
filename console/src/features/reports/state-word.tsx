import type { Report } from "../../api/types";
import { moment } from "../../lib/words";

/** How far a report has come, in words. */
export function StateWord({ report }: { report: Report }) {
  if (report.state === "sent") return <b className="text-good font-semibold">sent on {moment(report.sent_at)}</b>;
  if (report.state === "approved")
    return <b className="text-good font-semibold">approved{report.approver ? ` by ${report.approver}` : ""}</b>;
  return <b className="font-semibold">draft, version {report.version}</b>;
}
