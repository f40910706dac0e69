import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { findings } from "../../api/queries/runs";
import { catalogue } from "../../api/queries/work";
import type { Change as ChangeName, Check, Run, Site, Summary } from "../../api/types";
import { age, count, day, gain, plural, points, signed, tooFewShared } from "../../lib/words";
import { Address, Card } from "../../ui/parts";
import { Bar, Change, Course, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSite } from "./context";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";
import { SiteFiles } from "./site-files";
import { Spreads } from "./spreads";

export function SummaryScreen() {
  const { site, run } = useSite();
  if (!run?.summary) return <NoRun site={site} />;
  return <Content site={site} run={run} summary={run.summary} />;
}

function Content({ site, run, summary }: { site: Site; run: Run; summary: Summary }) {
  const checks = useQuery(findings.checks(run.id));
  return (
    <>
      {summary.notices.map((notice) => (
        <p key={notice} role="alert" className="bg-clay-soft mb-3.5 rounded-md px-3 py-1.5">
          {notice}
        </p>
      ))}
      <div className="grid items-start gap-4 lg:grid-cols-[1.25fr_1fr_1fr]">
        <Card title="Health" aside="0 to 100, high is good">
          {summary.health === null ? (
            <p>No page was scored, so there is no health.</p>
          ) : (
            <div className="flex flex-wrap items-center gap-3.5">
              <b className="text-[34px] leading-none font-semibold">{points(summary.health)}</b>
              <div className="min-w-0">
                <Course health={summary.health} brick={10} height={16} />
                <Difference run={run} />
              </div>
            </div>
          )}
          <WhereLost site={site} summary={summary} checks={checks.data ?? []} />
        </Card>
        <Since site={site} run={run} />
        <Funnel site={site} summary={summary} />
      </div>
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[1.9fr_1fr]">
        <Card title="Worth doing first" aside="severity, then points gained per fix">
          <Loaded query={checks}>
            {(rows) => <FirstTable site={site} run={run} rows={rows.filter((r) => r.findings).slice(0, 8)} />}
          </Loaded>
        </Card>
        <Card title="By area" aside="high is good">
          <Areas site={site} run={run} summary={summary} />
        </Card>
      </div>
      <SiteFiles site={site} run={run} />
      <Spreads site={site} run={run} />
    </>
  );
}

function Difference({ run }: { run: Run }) {
  const { base_at: at, health_change: change, changes } = run;
  if (!at) return null;
  if (change === null || change === undefined) {
    const shared = changes?.health;
    return (
      <div className="text-ink-2 mt-0.5 text-sm">
        not compared with {day(at)}
        {shared && `: ${tooFewShared(shared)}`}
      </div>
    );
  }
  if (change === 0) return <div className="text-ink-2 mt-0.5 text-sm">as on {day(at)}</div>;
  return (
    <div className={`mt-0.5 text-sm ${change < 0 ? "text-bad" : "text-good"}`}>
      {points(Math.abs(change))} points {change < 0 ? "lower" : "higher"} than {day(at)}
    </div>
  );
}

/** Where the points went: a bar that adds up to 100, and the same in a sentence. */
function WhereLost({ site, summary, checks }: { site: Site; summary: Summary; checks: Check[] }) {
  const lost = summary.lost ?? [];
  if (summary.health === null || lost.length === 0) return null;
  const byId = new Map(checks.map((check) => [check.id, check]));
  const named = lost.filter((loss) => loss.check && loss.points >= 0.05);
  const rest = lost.filter((loss) => !named.includes(loss)).reduce((sum, loss) => sum + loss.points, 0);
  const title = (id: string) => byId.get(id)?.summary ?? id;
  const parts = [
    { key: "health", points: summary.health, label: "Health", fill: "var(--accent)" },
    ...named.map((loss) => ({
      key: loss.check,
      points: loss.points,
      label: title(loss.check),
      fill: `var(--${byId.get(loss.check)?.severity ?? "medium"})`,
    })),
    { key: "rest", points: rest, label: "All other checks", fill: "var(--line-strong)" },
  ].filter((part) => part.points > 0);
  return (
    <>
      <div
        role="img"
        aria-label={parts.map((part) => `${part.label}: ${points(part.points)}`).join(", ")}
        className="mt-3 flex h-3 gap-px overflow-hidden rounded-sm"
      >
        {parts.map((part) => (
          <span
            key={part.key}
            title={`${part.label}: ${points(part.points)} points`}
            style={{ width: `${part.points}%`, background: part.fill }}
          />
        ))}
      </div>
      <p className="mt-2 text-sm">
        {points(100 - summary.health)} points are lost:{" "}
        {named.map((loss, i) => (
          <span key={loss.check}>
            {i > 0 && ", "}
            <b className="font-semibold">{points(loss.points)}</b> to{" "}
            <Link to={`/sites/${site.id}/checks/${loss.check}`}>“{title(loss.check).toLowerCase()}”</Link>
          </span>
        ))}
        {rest >= 0.05 && (
          <>
            {named.length > 0 && ", "}
            {points(rest)} to <Link to={`/sites/${site.id}/findings?sort=-Gain`}>all other checks</Link>
          </>
        )}
        .
      </p>
    </>
  );
}

/** The events that did most to health; all of them are under Changes. */
const EVENTS_SHOWN = 3;
const ROWS: readonly ChangeName[] = [
  "new",
  "returned",
  "fixed",
  "gone-with-page",
  "still-there",
  "check-changed",
  "unverified",
  "waived",
];
const REMARKS: Partial<Record<ChangeName, string>> = {
  unverified: "could not be examined",
  "check-changed": "another rule than then",
};
const ALWAYS: readonly ChangeName[] = ["new", "fixed", "still-there"];

function Since({ site, run }: { site: Site; run: Run }) {
  if (!run.base_id || !run.changes)
    return (
      <Card title="Changes">
        <p className="text-ink-3">
          {site.kind === "competitor"
            ? "A competitor is audited in benchmark rounds, which stand alone. Trend shows its rounds side by side."
            : run.base_id
              ? "The run before cannot be read any more, so there is nothing to compare this one with."
              : "This is the first audit; there is nothing to compare it with yet."}
        </p>
      </Card>
    );
  const counts = run.changes.counts;
  const merged: Record<string, number> = {
    ...counts,
    new: (counts["new"] ?? 0) + (counts["new-with-page"] ?? 0) + (counts["new-to-view"] ?? 0),
  };
  const confirmed = run.changes.todos_confirmed;
  const compare = `/sites/${site.id}/changes?base=${run.base_id}&head=${run.id}`;
  const moved = (run.changes.events ?? [])
    .map((event, place) => ({ event, place }))
    .filter(({ event }) => event.shown)
    .slice(0, EVENTS_SHOWN);
  return (
    <Card title={`Since ${day(run.base_at)}`} aside={<Link to={compare}>all changes</Link>}>
      {moved.length > 0 && (
        <ul className="border-line mb-1.5 border-b pb-1.5">
          {moved.map(({ event, place }) => (
            <li key={place} className="flex gap-2.5 py-0.5">
              <span
                className={`w-12 shrink-0 text-right font-semibold tabular-nums ${(event.shown ?? 0) < 0 ? "text-bad" : "text-good"}`}
              >
                {signed(event.shown)}
              </span>
              <Link to={`${compare}&by=findings&event=${place}`} className="text-ink min-h-[24px] min-w-0 break-words">
                {event.title}
              </Link>
            </li>
          ))}
        </ul>
      )}
      <Table
        bare
        rows={ROWS.filter((name) => merged[name] || ALWAYS.includes(name)).map((name) => ({ name }))}
        id={(r) => r.name}
        caption="Findings by what became of them"
        empty=""
        columns={[
          { head: "Class", cell: (r) => <Change name={r.name} /> },
          {
            head: "Findings",
            number: true,
            cell: (r) => <b className="font-semibold">{count(merged[r.name] ?? 0)}</b>,
          },
          {
            head: "Remark",
            cell: (r) => (
              <span className="text-ink-3">
                {r.name === "fixed" && confirmed > 0 ? `${plural(confirmed, "to-do")} confirmed` : REMARKS[r.name]}
              </span>
            ),
          },
        ]}
      />
    </Card>
  );
}

function Funnel({ site, summary }: { site: Site; summary: Summary }) {
  const most = Math.max(1, summary.funnel[0]?.count ?? 1);
  const reasons = Object.entries(summary.dropouts);
  return (
    <Card title="URLs" aside={<Link to={`/sites/${site.id}/inventory`}>inventory</Link>}>
      <Table
        bare
        rows={summary.funnel}
        id={(step) => step.id}
        caption="Addresses of the site, step by step"
        empty="No URLs found."
        columns={[
          { head: "Step", cell: (step) => step.label },
          { head: "URLs", number: true, cell: (step) => count(step.count) },
          {
            head: "Dropped out before this step",
            number: true,
            cell: (step) => {
              const before = summary.funnel[summary.funnel.indexOf(step) - 1];
              if (!before || !step.where || before.count === step.count) return null;
              return (
                <Link
                  to={`/sites/${site.id}/inventory?${new URLSearchParams({ where: step.where })}`}
                  aria-label={`${count(before.count - step.count)} URLs drop out before “${step.label}”`}
                >
                  −{count(before.count - step.count)}
                </Link>
              );
            },
          },
          {
            head: "Share",
            className: "w-24",
            cell: (step) => (
              <Bar share={step.count / most} label={`${Math.round((100 * step.count) / most)} % of the known`} />
            ),
          },
        ]}
      />
      {reasons.length > 0 && (
        <details className="mt-1.5 text-sm">
          <summary className="text-accent cursor-pointer">why URLs drop out</summary>
          <ul className="text-ink-2 mt-1">
            {reasons.map(([reason, n]) => (
              <li key={reason}>
                {reason}: {count(n)}
              </li>
            ))}
          </ul>
        </details>
      )}
    </Card>
  );
}

function FirstTable({ site, run, rows }: { site: Site; run: Run; rows: Check[] }) {
  const now = new Date(run.requested_at);
  return (
    <Table
      rows={rows}
      id={(r) => r.id}
      caption="Checks that fail, in the order of work"
      empty="All checks pass."
      columns={[
        { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
        {
          head: "What",
          cell: (r) => (
            <>
              <Link to={`/sites/${site.id}/checks/${r.id}`} className="text-ink font-semibold">
                {r.summary}
              </Link>
              <div className="text-ink-3">
                <Address text={r.cause ?? ""} chars={70} className="!font-sans wrap-break-word" />
              </div>
            </>
          ),
        },
        { head: "Places", number: true, cell: (r) => count(r.findings) },
        { head: "Fixes", number: true, cell: (r) => count(r.fixes) },
        { head: "Gain", number: true, cell: (r) => <span className="text-good">{gain(r.gain)}</span> },
        { head: "Since", cell: (r) => <span className="text-sm whitespace-nowrap">{age(r.since, now)}</span> },
        { head: "To-do", quiet: true, cell: (r) => <TodoCell site={site} row={r} /> },
      ]}
    />
  );
}

export function TodoCell({ site, row }: { site: Site; row: Check }) {
  const may = useMay();
  const todo = row.todos?.[0];
  if (todo)
    return (
      <Link to={`/todos/${todo.id}`} className="text-sm">
        {todo.assignee.split(" ")[0] || "to-do"}, {todo.due ? day(todo.due) : todo.state}
      </Link>
    );
  return may("add_todo") && <MakeTodo site={site} check={row.id} title={row.summary} label="to-do" quiet />;
}

function Areas({ site, run, summary }: { site: Site; run: Run; summary: Summary }) {
  const entries = useQuery(catalogue.all());
  const names = new Map<string, string>((entries.data ?? []).map((e) => [e.area, e.area_name]));
  const all = Object.entries(summary.areas).sort((a, b) => (a[1] ?? 101) - (b[1] ?? 101));
  const rows = all.filter(([, score]) => score !== null && score < 99.95);
  const whole = all.filter(([, score]) => score !== null && score >= 99.95);
  const absent = all.filter(([, score]) => score === null);
  const pages: Record<string, number> = summary.area_pages ?? {};
  const shared = run.changes?.areas ?? {};
  return (
    <>
      <Table
        rows={rows.map(([area, score]) => ({ area, score, pages: pages[area], change: shared[area]?.change ?? null }))}
        id={(r) => r.area}
        caption="Score of every area"
        empty={whole.length > 0 ? "" : "No area was scored."}
        columns={[
          {
            head: "Area",
            cell: (r) => (
              <Link to={`/sites/${site.id}/findings?area=${r.area}`} className="text-ink">
                {names.get(r.area) ?? r.area}
              </Link>
            ),
          },
          { head: "Score", number: true, cell: (r) => points(r.score) },
          { head: "Pages", number: true, cell: (r) => count(r.pages) },
          {
            head: "Change",
            number: true,
            cell: (r) => (
              <span
                className={
                  r.change === null || r.change === 0
                    ? ""
                    : r.change < -0.05
                      ? "text-bad"
                      : r.change > 0.05
                        ? "text-good"
                        : "text-ink-3"
                }
              >
                {r.change === null && run.base_id ? (
                  <span title="Too few pages were examined in both runs">not compared</span>
                ) : (
                  signed(r.change)
                )}
              </span>
            ),
          },
        ]}
      />
      {whole.length > 0 && (
        <p className="text-ink-3 mt-1.5 text-sm">
          At 100, with the pages examined:{" "}
          {whole.map(([area]) => `${names.get(area) ?? area} (${count(pages[area])})`).join(", ")}.
        </p>
      )}
      {absent.length > 0 && (
        <p className="text-ink-3 mt-1.5 text-sm">
          Not examined on any page: {absent.map(([area]) => names.get(area) ?? area).join(", ")}.
        </p>
      )}
    </>
  );
}
