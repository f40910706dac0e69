import { Link, useSearchParams } from "react-router";
import type { Cause, Check, Severity as SeverityName } from "../../api/client";
import { useRead } from "../../api/hooks";
import { age, count, day, gain } from "../../lib/words";
import { Address, Card, Chip, Loaded, Table } from "../../ui/parts";
import { Severity } from "../../ui/signs";
import { useSite } from "./context";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";
import { TodoCell } from "./summary";

const SEVERITIES: SeverityName[] = ["critical", "high", "medium", "low"];
const KEYS: Record<string, (r: Check) => number | string> = {
  severity: (r) => SEVERITIES.indexOf(r.severity),
  summary: (r) => r.summary,
  findings: (r) => r.findings,
  pages: (r) => r.pages,
  fixes: (r) => r.fixes,
  gain: (r) => r.gain,
  change: (r) => r.change ?? 0,
};

export function FindingsScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  const checks = useRead<Check[]>(run ? `/runs/${run.id}/checks` : null);
  if (!run) return <NoRun site={site} />;
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(view);
    if (value) next.set(name, value);
    else next.delete(name);
    setView(next, { replace: true });
  };
  const [by, severity, area, sort] = ["by", "severity", "area", "sort"].map((k) => view.get(k) ?? "");
  return (
    <Card
      title={by === "cause" ? "Causes" : "Checks that fail"}
      aside={
        <span className="flex flex-wrap gap-1.5">
          <Chip on={by !== "cause"} onClick={() => set("by", "")}>
            by check
          </Chip>
          <Chip on={by === "cause"} onClick={() => set("by", "cause")}>
            by cause
          </Chip>
          <span className="w-2" />
          {SEVERITIES.map((name) => (
            <Chip key={name} on={severity === name} onClick={() => set("severity", severity === name ? "" : name)}>
              {name}
            </Chip>
          ))}
          {area && (
            <Chip on onClick={() => set("area", "")}>
              area: {area} ✕
            </Chip>
          )}
          <a className="ml-2" href={`/api/v1/runs/${run.id}/export/csv`}>
            export CSV
          </a>
        </span>
      }
    >
      {by === "cause" ? (
        <Causes runId={run.id} severity={severity ?? ""} now={new Date(run.requested_at)} />
      ) : (
        <Loaded query={checks} tall={12}>
          {(rows) => (
            <Checks
              rows={rows.filter((r) => (!severity || r.severity === severity) && (!area || r.area === area))}
              sort={sort ?? ""}
              onSort={(key) => set("sort", key)}
              now={new Date(run.requested_at)}
            />
          )}
        </Loaded>
      )}
    </Card>
  );
}

function Checks({
  rows,
  sort,
  onSort,
  now,
}: {
  rows: Check[];
  sort: string;
  onSort: (key: string) => void;
  now: Date;
}) {
  const { site } = useSite();
  const key = KEYS[sort.replace("-", "")];
  const sorted = key
    ? [...rows].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0) * (sort.startsWith("-") ? -1 : 1))
    : rows;
  return (
    <Table
      rows={sorted}
      id={(r) => r.id}
      sorted={sort}
      onSort={onSort}
      caption="Checks that fail"
      empty="No check fails here."
      columns={[
        { head: "Severity", sort: "severity", cell: (r) => <Severity name={r.severity} /> },
        {
          head: "What",
          sort: "summary",
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
        {
          head: "Places",
          sort: "findings",
          number: true,
          cell: (r) => (
            <>
              {count(r.findings)}
              {r.waived > 0 && <span className="text-ink-3 block text-sm">+{r.waived} waived</span>}
            </>
          ),
        },
        { head: "Pages", sort: "pages", number: true, cell: (r) => count(r.pages) },
        { head: "Fixes", sort: "fixes", number: true, cell: (r) => count(r.fixes) },
        {
          head: "Gain",
          sort: "gain",
          number: true,
          cell: (r) => <span className="text-good">{r.findings ? gain(r.gain) : ""}</span>,
        },
        {
          head: "Change",
          sort: "change",
          number: true,
          cell: (r) =>
            r.change ? (
              <span className={r.change > 0 ? "text-bad" : "text-good"}>
                {r.change > 0 ? "+" : "−"}
                {count(Math.abs(r.change))}
              </span>
            ) : (
              ""
            ),
        },
        {
          head: "Since",
          cell: (r) => (
            <span className="text-sm whitespace-nowrap">
              {r.times_returned > 0 && "↺ "}
              {age(r.since, now)}
            </span>
          ),
        },
        { head: "To-do", cell: (r) => (r.findings ? <TodoCell site={site} row={r} /> : "") },
      ]}
    />
  );
}

function Causes({ runId, severity, now }: { runId: string; severity: string; now: Date }) {
  const { site } = useSite();
  const causes = useRead<Cause[]>(`/runs/${runId}/causes?limit=500`);
  return (
    <Loaded query={causes} tall={12}>
      {(rows) => (
        <Table
          rows={rows.filter((r) => !severity || r.severity === severity)}
          id={(r) => r.id}
          caption="Causes: each is one fix"
          empty="No causes here."
          columns={[
            { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
            {
              head: "Cause",
              cell: (r) => (
                <>
                  <Link to={`/sites/${site.id}/checks/${r.check}?cause=${r.id}`} className="text-ink">
                    <Address text={r.line} chars={84} className="!font-sans" />
                  </Link>
                  <div className="text-ink-3 text-sm">{r.summary}</div>
                </>
              ),
            },
            { head: "Places", number: true, cell: (r) => count(r.findings) },
            { head: "Pages", number: true, cell: (r) => count(r.pages) },
            {
              head: "Gain",
              number: true,
              cell: (r) => <span className="text-good">{r.findings ? gain(r.gain) : ""}</span>,
            },
            {
              head: "Since",
              cell: (r) => (
                <span className="text-sm whitespace-nowrap">
                  {r.times_returned > 0 && "↺ "}
                  {age(r.since, now)}
                </span>
              ),
            },
            {
              head: "To-do",
              cell: (r) =>
                r.todos?.[0] ? (
                  <Link to={`/todos/${r.todos[0].id}`} className="text-sm whitespace-nowrap">
                    {r.todos[0].assignee.split(" ")[0] || "to-do"},{" "}
                    {r.todos[0].due ? day(r.todos[0].due) : r.todos[0].state}
                  </Link>
                ) : (
                  <MakeTodo
                    site={site}
                    cause={r.id}
                    title={`${r.summary}: ${r.line}`.slice(0, 200)}
                    label="to-do"
                    quiet
                  />
                ),
            },
          ]}
        />
      )}
    </Loaded>
  );
}
