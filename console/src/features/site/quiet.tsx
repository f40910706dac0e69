import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { findings } from "../../api/queries/runs";
import type { Check } from "../../api/types";
import { count } from "../../lib/words";
import { Chip } from "../../ui/parts";
import { Severity, severityRank } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { QUIET, type Quiet } from "./asked";
import { useSite } from "./context";

const EMPTY: Record<Quiet, string> = {
  passed: "No check has passed everywhere.",
  "not-applicable": "Every check had something to look at.",
  unverified: "Every check could be examined.",
  off: "The plan has no check switched off.",
};

type QuietProps = { runId: string; outcome: Quiet; choose: (outcome: Quiet) => void; shown: (row: Check) => boolean };

/** The checks without findings: those that passed, and those of which that cannot be said. */
export function QuietChecks({ runId, outcome, choose, shown }: QuietProps) {
  const { site } = useSite();
  const checks = useQuery(findings.quiet(runId, outcome));
  return (
    <>
      <div className="mt-3 mb-1 flex flex-wrap gap-1.5" role="group" aria-label="Why they have no findings">
        {(Object.keys(QUIET) as Quiet[]).map((name) => (
          <Chip key={name} on={outcome === name} onClick={() => choose(name)}>
            {QUIET[name]}
          </Chip>
        ))}
      </div>
      <Loaded query={checks} tall={12}>
        {(rows) => (
          <Table
            rows={rows.filter(shown)}
            id={(r) => r.id}
            name="checks"
            caption={`Checks without findings: ${QUIET[outcome]}`}
            empty={EMPTY[outcome]}
            columns={[
              { head: "Severity", sort: (r) => severityRank(r.severity), cell: (r) => <Severity name={r.severity} /> },
              {
                head: "What",
                sort: (r) => r.summary,
                cell: (r) => (
                  <>
                    <Link to={`/sites/${site.id}/checks/${r.id}`} className="text-ink font-semibold">
                      {r.summary}
                    </Link>
                    <div className="text-ink-3 text-sm">
                      {r.area_name} · <span className="font-mono">{r.id}</span>
                    </div>
                  </>
                ),
              },
              { head: "About", sort: (r) => r.subject, cell: (r) => ABOUT[r.subject] },
              figure("Examined", (r) => r.examined),
              figure("Passed", (r) => r.passed),
              figure("Not applicable", (r) => r.not_applicable),
              figure("Unverified", (r) => r.unverified),
            ]}
          />
        )}
      </Loaded>
    </>
  );
}

const ABOUT: Record<Check["subject"], string> = { page: "pages", file: "files", group: "pages", site: "the site" };

function figure(head: string, of: (row: Check) => number | null | undefined) {
  return {
    head,
    number: true,
    sort: (r: Check) => of(r) ?? 0,
    cell: (r: Check) => (of(r) == null ? "–" : count(of(r) ?? 0)),
  };
}
