/** What is wrong on a page, and how to fix what is chosen. The chosen finding is part of the address: a link to it lasts. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../../api/hooks";
import { catalogue } from "../../../api/queries/work";
import type { Finding, Page } from "../../../api/types";
import { useAddress } from "../../../lib/address";
import { age, points } from "../../../lib/words";
import { Card, LinkButton } from "../../../ui/parts";
import { Severity, severityRank } from "../../../ui/signs";
import { useSay } from "../../../ui/toast";
import { useSite } from "../context";
import { FindingRuns } from "../history";
import { Source } from "../in-source";
import { Waive } from "../waive";

export function PageFindings({ page }: { page: Page }) {
  const { run } = useSite();
  const [view, set] = useAddress();
  const now = new Date(run?.requested_at ?? 0);
  const rows = [...(page.findings ?? [])].sort((a, b) => severityRank(a.severity) - severityRank(b.severity));
  const asked = view.get("finding") ?? "";
  const chosen = rows.find((row) => row.fingerprint === asked) ?? (asked ? undefined : rows[0]);
  return (
    <div className="min-w-0 space-y-3.5">
      <Card
        title={
          <>
            Findings <span className="text-ink-3 font-normal">{rows.length}</span>
          </>
        }
        aside={
          page.health === null || page.health === undefined ? "not scored" : `health ${points(page.health)} of 100`
        }
      >
        {rows.length === 0 && <p className="text-ink-3">All checks pass on this page.</p>}
        <ul className="-mx-1.5 max-h-96 overflow-y-auto">
          {rows.map((row) => (
            <li key={row.id} className="border-line border-b last:border-b-0">
              <button
                type="button"
                aria-pressed={row.id === chosen?.id}
                onClick={() => set("finding", row.fingerprint)}
                className={`grid w-full grid-cols-[5.5rem_minmax(0,1fr)_auto] items-start gap-2 rounded-sm px-1.5 py-1.5 text-left ${row.id === chosen?.id ? "bg-accent-soft" : "hover:bg-sunk"}`}
              >
                <Severity name={row.severity} />
                <span className="min-w-0">
                  <b className="block font-semibold">
                    {row.summary}
                    {row.waived && <span className="text-ink-3 font-normal"> (waived)</span>}
                  </b>
                  <span className="text-ink-2 line-clamp-2 text-sm break-words">{row.message}</span>
                </span>
                <span className="text-ink-2 text-sm whitespace-nowrap">{age(row.since, now)}</span>
              </button>
            </li>
          ))}
        </ul>
      </Card>
      {asked && !chosen && <NotHere fingerprint={asked} />}
      {chosen && <HowToFix key={chosen.id} finding={chosen} page={page} />}
    </div>
  );
}

/** A link to a finding that this run does not have. */
function NotHere({ fingerprint }: { fingerprint: string }) {
  const { site } = useSite();
  const [, set] = useAddress();
  return (
    <Card title="The finding is not in this run">
      <p className="mb-1">
        It may be fixed, or could not be examined.{" "}
        <LinkButton onClick={() => set("finding", "")}>Show what is there</LinkButton>
      </p>
      <FindingRuns siteId={site.id} fingerprint={fingerprint} />
    </Card>
  );
}

function HowToFix({ finding, page }: { finding: Finding; page: Page }) {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const entry = (useQuery(catalogue.all()).data ?? []).find((each) => each.id === finding.check);
  const link = () => {
    const query = new URLSearchParams({ url: page.url, finding: finding.fingerprint });
    void navigator.clipboard
      .writeText(`${location.origin}/sites/${site.id}/page?${query}`)
      .then(() => say("The link to this finding is copied."));
  };
  return (
    <Card title="How to fix it" aside={entry?.effort && `${entry.effort} effort`}>
      <p className="break-words">{finding.message}</p>
      {entry?.fix && <p className="mt-1.5">{entry.fix}</p>}
      {finding.source && <Source source={finding.source} />}
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
        <Link to={`/sites/${site.id}/checks/${finding.check}?cause=${finding.cause}`}>
          Other places of the same cause
        </Link>
        {may("add_waivers") && !finding.waived && (
          <Waive quiet checks={[finding.check]} summary={finding.summary} findings={[finding]} label="Waive" />
        )}
        <LinkButton onClick={link}>Copy link</LinkButton>
        <FindingRuns siteId={site.id} fingerprint={finding.fingerprint} />
      </div>
    </Card>
  );
}
