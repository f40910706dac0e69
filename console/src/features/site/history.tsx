import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { findings, pages } from "../../api/queries/runs";
import type { FindingSight, PageSight } from "../../api/types";
import { count, day, moment, plural, points } from "../../lib/words";
import { Address, LinkButton } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { spans } from "./spans";

const SIGNS: Record<FindingSight["seen"], { sign: string; words: string; tone: string }> = {
  open: { sign: "■", words: "found", tone: "text-bad" },
  waived: { sign: "◇", words: "found, waived", tone: "text-ink-2" },
  passed: { sign: "▼", words: "passed", tone: "text-good" },
  gone: { sign: "·", words: "page not there", tone: "text-ink-3" },
  unverified: { sign: "▨", words: "unverified", tone: "text-ink-3" },
};

/** What the runs of a site saw of one finding, read when somebody wants to know. */
export function FindingRuns({ siteId, fingerprint }: { siteId: number; fingerprint: string }) {
  const [shown, setShown] = useState(false);
  const found = useQuery({ ...findings.history(siteId, fingerprint), enabled: shown });
  return (
    <div className={shown ? "text-sm" : "mr-3 inline-block text-sm"}>
      <LinkButton aria-expanded={shown} onClick={() => setShown(!shown)}>
        {shown ? "Hide history" : "Show history"}
      </LinkButton>
      {shown && (
        <Loaded query={found} tall={2}>
          {(data) => (
            <>
              <ol aria-label="What the runs saw, the latest first" className="mt-0.5">
                {spans(data.runs).map((span) => (
                  <li key={span.runs[0]?.run_id}>
                    <span className={SIGNS[span.seen].tone}>
                      {SIGNS[span.seen].sign} {SIGNS[span.seen].words}
                    </span>{" "}
                    {span.from === span.to ? day(span.from) : `${day(span.from)} to ${day(span.to)}`}
                    {span.runs.length > 1 && <span className="text-ink-3">, {plural(span.runs.length, "run")}</span>}
                    {span.rule_changed && <span className="text-ink-3">, by a changed rule</span>}
                  </li>
                ))}
              </ol>
              {data.times_returned > 0 && <p>Returned {plural(data.times_returned, "time")}.</p>}
              {data.more > 0 && (
                <p className="text-ink-3">{plural(data.more, "run")} more, without a file or before these.</p>
              )}
            </>
          )}
        </Loaded>
      )}
    </div>
  );
}

const NAMES: Record<string, string> = {
  status: "status",
  failure: "failure",
  why_not: "indexability",
  title: "title",
  description: "description",
  h1: "main heading",
  canonical: "canonical",
  robots: "robots directives",
  words: "words",
};

/** A page as the runs of its site saw it, with what changed from one to the next. */
export function PageRuns({ siteId, url }: { siteId: number; url: string }) {
  const found = useQuery(pages.history(siteId, url));
  return (
    <Loaded query={found} tall={5}>
      {(data) => (
        <>
          <Table
            rows={data.runs}
            id={(r) => r.run_id}
            caption="The page in each run, the latest first"
            empty="No run knows this page."
            columns={[
              { head: "Run", cell: (r) => <span className="whitespace-nowrap">{moment(r.at)}</span> },
              {
                head: "Status",
                cell: (r) => (r.known ? answer(r) : "not known"),
              },
              { head: "Health", number: true, cell: (r) => points(r.health) },
              { head: "Findings", number: true, cell: (r) => count(r.findings) },
              { head: "Words", number: true, cell: (r) => count(r.words) },
              { head: "Title", cell: (r) => <Address text={r.title ?? ""} chars={50} className="!font-sans" /> },
              { head: "Changed", cell: (r) => <Changed sight={r} /> },
            ]}
          />
          {data.more > 0 && (
            <p className="text-ink-3">{plural(data.more, "run")} more, without a file or before these.</p>
          )}
        </>
      )}
    </Loaded>
  );
}

const answer = (r: PageSight) => r.status ?? (r.failure || (r.why_not === "disallowed" ? "blocked" : r.why_not) || "–");

function Changed({ sight }: { sight: PageSight }) {
  return (
    <>
      {sight.changed.map((name) => (
        <div key={name}>
          <b className="font-semibold">{NAMES[name] ?? name}</b>
          {name !== "title" && name !== "status" && name !== "words" && (
            <span className="text-ink-2 break-words"> {String(sight[name as keyof PageSight] || "none")}</span>
          )}
        </div>
      ))}
    </>
  );
}
