import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { useMay } from "../../api/hooks";
import { findings } from "../../api/queries/runs";
import { trends } from "../../api/queries/sites";
import type { Cause, CheckOnSite, Evidence, Finding } from "../../api/types";
import { age, count, day, gain, plural } from "../../lib/words";
import { Downloads } from "../../ui/downloads";
import { Address, Card, Title } from "../../ui/parts";
import { Line, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";
import { Retired } from "../catalogue/retired";
import { asked, noCauses } from "./asked";
import { useSite } from "./context";
import { runExports } from "./exports";
import { AlsoFails } from "./also-fails";
import { FindingRuns } from "./history";
import { InSource } from "./in-source";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";
import { besideRuns } from "../../lib/remark-marks";
import { Subject } from "./subject";
import { Waive } from "./waive";

export function CheckScreen() {
  const { site, run } = useSite();
  const { checkId = "" } = useParams();
  const check = useQuery({ ...findings.check(run?.id ?? "", checkId), enabled: run !== null });
  if (!run) return <NoRun site={site} />;
  return (
    <Loaded query={check} tall={12}>
      {(data) => <Content check={data} />}
    </Loaded>
  );
}

function Content({ check }: { check: CheckOnSite }) {
  const { site, run } = useSite();
  const may = useMay();
  const [view, setView] = useSearchParams();
  const causes = check.causes ?? [];
  const chosen = view.get("cause") ? Number(view.get("cause")) : causes[0]?.id;
  const pick = (id: number) => setView({ cause: String(id) }, { replace: true });
  return (
    <>
      <Title of={[check.summary, site.host]} />
      {check.retired && <Retired id={check.id} retired={check.retired} />}
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-[17px] font-semibold">{check.summary}</h2>
        <div className="flex gap-2">
          {may("add_waivers") && !check.retired && <Waive checks={[check.id]} summary={check.summary} label="Waive" />}
          {run && <Downloads items={runExports(run.id, { check: check.id })} />}
          {may("add_todo") && (
            <MakeTodo
              main
              site={site}
              check={check.id}
              title={check.summary}
              label="Create to-do"
              disabled={check.findings === 0}
            />
          )}
        </div>
      </div>
      <div className="mt-1.5 mb-3 flex flex-wrap items-center gap-x-3.5 gap-y-1">
        <Severity name={check.severity} />
        <span className="text-ink-3">
          {check.area_name} · <span className="font-mono text-sm">{check.id}</span>
        </span>
        <span>
          {plural(check.findings, "place")} on {plural(check.pages, "page")} · {plural(check.fixes, "fix")} ·{" "}
          <Worth points={check.gain} />
          {check.waived > 0 && ` · ${count(check.waived)} waived`}
          {check.unverified > 0 && ` · ${count(check.unverified)} unverified`}
        </span>
      </div>
      {check.severity_change && (
        <p className="text-ink-3 -mt-2 mb-3 text-sm">
          {check.severity} instead of {check.severity_change.usual}
          {check.severity_change.profile && `, by the profile ${check.severity_change.profile}`}:{" "}
          {check.severity_change.reason}
        </p>
      )}
      {asked(check) && <p className="text-ink-3 -mt-2 mb-3 text-sm">{asked(check)}</p>}
      <div className="grid items-start gap-4 lg:grid-cols-[2fr_1fr]">
        <div className="min-w-0 space-y-3.5">
          <Card title="Causes" aside="each is one fix">
            <CauseTable causes={causes} none={noCauses(check.outcome, check.waived ?? 0)} chosen={chosen} pick={pick} />
          </Card>
          <Places key={chosen} check={check} cause={chosen} />
        </div>
        <div className="min-w-0 space-y-3.5">
          <Explanation check={check} />
          {!check.retired && <AlsoFails check={check.id} />}
        </div>
      </div>
    </>
  );
}

function Worth({ points }: { points: number }) {
  const words = gain(points);
  if (words === "none") return "no points to gain";
  return (
    <>
      worth <b className="text-good font-semibold">{words}</b> points
    </>
  );
}

function CauseTable({
  causes,
  none,
  chosen,
  pick,
}: {
  causes: Cause[];
  none: string;
  chosen?: number;
  pick: (id: number) => void;
}) {
  const { site, run } = useSite();
  const may = useMay();
  const now = new Date(run?.requested_at ?? 0);
  return (
    <Table
      rows={causes}
      id={(r) => r.id}
      caption="Causes of this check"
      empty={none}
      marked={(r) => r.id === chosen}
      columns={[
        {
          head: "Choose",
          quiet: true,
          cell: (r) => (
            <input
              type="radio"
              name="cause"
              aria-label={`Show the places of: ${r.line}`}
              checked={r.id === chosen}
              onChange={() => pick(r.id)}
            />
          ),
        },
        {
          head: "Cause",
          cell: (r) => <Address text={r.line} chars={110} className="!font-sans !text-base wrap-break-word" />,
        },
        { head: "Places", sort: (r) => r.findings, number: true, cell: (r) => count(r.findings) },
        {
          head: "Gain",
          sort: (r) => r.gain,
          number: true,
          cell: (r) => <span className="text-good">{gain(r.gain)}</span>,
        },
        {
          head: "Since",
          sort: (r) => r.since,
          cell: (r) => (
            <span className="whitespace-nowrap">
              {r.times_returned > 0 && "↺ "}
              {age(r.since, now)}
            </span>
          ),
        },
        {
          head: "To-do",
          cell: (r) =>
            r.todos?.[0] ? (
              <Link to={`/todos/${r.todos[0].id}`}>
                {r.todos[0].assignee || "nobody"}, {r.todos[0].due ? day(r.todos[0].due) : ""}
              </Link>
            ) : (
              may("add_todo") && <MakeTodo site={site} cause={r.id} title={r.line.slice(0, 200)} label="to-do" quiet />
            ),
        },
      ]}
    />
  );
}

function Places({ check, cause }: { check: CheckOnSite; cause?: number }) {
  const { site, run } = useSite();
  const may = useMay();
  const found = useInfiniteQuery(findings.places(run?.id ?? "", check.id, cause));
  const now = new Date(run?.requested_at ?? 0);
  const act = (chosen: Finding[], clear: () => void) => (
    <span className="flex gap-3">
      <MakeTodo
        quiet
        site={site}
        fingerprints={chosen.map((f) => f.fingerprint)}
        title={check.summary}
        label="Create to-do"
        made={clear}
      />
      {may("add_waivers") && (
        <Waive quiet checks={[check.id]} summary={check.summary} findings={chosen} label="Waive" made={clear} />
      )}
    </span>
  );
  return (
    <Card
      title={
        <>Places {cause !== undefined && <span className="text-ink-3 text-sm font-normal">of the chosen cause</span>}</>
      }
    >
      <Loaded query={found}>
        {(data) => {
          const rows = data.pages.flatMap((part) => part.items);
          return (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="Places where the check fails"
              empty="No places."
              act={may("add_todo") ? act : undefined}
              more={{
                total: data.pages[0]?.total ?? rows.length,
                load: nextPart(found),
              }}
              columns={[
                {
                  head: "On",
                  className: "min-w-44",
                  cell: (r) => <Subject siteId={site.id} host={site.host} subject={r.subject} chars={48} />,
                },
                {
                  head: "Finding",
                  cell: (r) => (
                    <>
                      <span className="break-words">{r.message}</span> <Landmark evidence={r.evidence} />
                      <InSource runId={run?.id ?? ""} fingerprint={r.fingerprint} open={r.id === rows[0]?.id} />
                      <FindingRuns siteId={site.id} fingerprint={r.fingerprint} />
                    </>
                  ),
                },
                { head: "Since", cell: (r) => <span className="whitespace-nowrap">{age(r.since, now)}</span> },
              ]}
            />
          );
        }}
      </Loaded>
    </Card>
  );
}

function Landmark({ evidence }: { evidence: Evidence }) {
  const landmark = evidence.landmark;
  return typeof landmark === "string" && landmark ? <span className="text-ink-3 text-sm"> in {landmark}</span> : null;
}

function Explanation({ check }: { check: CheckOnSite }) {
  const { site } = useSite();
  const limits = Object.entries(check.limits);
  const history = check.history ?? [];
  const remarks = useQuery(trends.remarks(site.id)).data ?? [];
  const marks = besideRuns(
    remarks,
    history.map(([at]) => at),
  );
  return (
    <Card title="Why it matters">
      <p>{check.why}</p>
      <h2 className="mt-3 mb-1 font-semibold">How to fix it</h2>
      <p>
        {check.fix} <b className="font-semibold">{check.effort[0]?.toUpperCase() + check.effort.slice(1)} effort</b> for
        each cause.
      </p>
      <h2 className="mt-3 mb-1 font-semibold">Based on</h2>
      <p>{check.standard}</p>
      {limits.length > 0 && (
        <>
          <h2 className="mt-3 mb-1 font-semibold">Limits</h2>
          {limits.map(([name, limit]) => (
            <p key={name}>
              {limit.meaning}: {(limit.value ?? limit.default).toLocaleString("en-GB")} {limit.unit}
              {typeof limit.value === "number" &&
                limit.value !== limit.default &&
                ` (default ${limit.default.toLocaleString("en-GB")})`}{" "}
              <span className="text-ink-3 font-mono text-sm">{name}</span>
            </p>
          ))}
        </>
      )}
      <h2 className="mt-3 mb-1 font-semibold">Over {plural(history.length, "run")}</h2>
      <Line values={history.map(([, places]) => places)} marks={marks} width={260} height={60} label="Places per run" />
      <p className="text-ink-3 text-sm">
        places per run, low is good{marks.length > 0 && "; dashed where something was remarked"} ·{" "}
        <Link to={`/sites/${site.id}/trend?figure=check.${check.id}`}>trend with remarks</Link>
      </p>
    </Card>
  );
}
