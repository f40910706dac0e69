import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useMay } from "../../api/hooks";
import { figures } from "../../api/queries/figures";
import { findings } from "../../api/queries/runs";
import { catalogue } from "../../api/queries/work";
import type { Cause, Check, FigureKind, Severity as SeverityName, Site, Weight } from "../../api/types";
import { age, count, day, gain, holds, plural } from "../../lib/words";
import { SearchInput, Select, Tabs } from "../../ui/controls";
import { Downloads } from "../../ui/downloads";
import { Address, Card, Chip } from "../../ui/parts";
import { SEVERITIES, Severity, severityRank } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { type Column, Table } from "../../ui/table";
import { QUIET, type Quiet } from "./asked";
import { useSite } from "./context";
import { runExports } from "./exports";
import { FindingsByArea, FindingsByBranch, PagesWithFindings } from "./findings-by";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";
import { QuietChecks } from "./quiet";
import { TodoCell } from "./summary";
import { Waive } from "./waive";

const TITLES = {
  check: "Checks that fail",
  cause: "Causes",
  page: "Pages with findings",
  folder: "Findings by folder",
  template: "Findings by template",
  area: "Findings by area",
  quiet: "Checks without findings",
};
const STATES = [
  { value: "", label: "in any state" },
  { value: "new", label: "new in this run" },
  { value: "returned", label: "returned" },
  { value: "old", label: "open for 30 days and more" },
  { value: "waived", label: "waived in part" },
  { value: "unverified", label: "unverified in part" },
];
const HANDED_OUT = [
  { value: "", label: "with or without to-do" },
  { value: "yes", label: "in a to-do" },
  { value: "no", label: "in no to-do" },
];
const OLD_DAYS = 30;
const DAY_MS = 86_400_000;

type Row = {
  since?: string | null;
  times_returned?: number;
  waived?: number;
  unverified?: number;
  todos?: readonly unknown[];
};

/** Whether a check or cause is in a state and in a to-do, as the filters ask. */
export function isLike(row: Row, state: string, todo: string, run: { requested_at: string }): boolean {
  const at = new Date(run.requested_at).getTime();
  const since = row.since ? new Date(row.since).getTime() : at;
  const states: Record<string, boolean> = {
    new: since >= at && !row.times_returned,
    returned: (row.times_returned ?? 0) > 0,
    old: at - since >= OLD_DAYS * DAY_MS,
    waived: (row.waived ?? 0) > 0,
    unverified: (row.unverified ?? 0) > 0,
  };
  const has = (row.todos ?? []).length > 0;
  return (states[state] ?? true) && (todo === "" || has === (todo === "yes"));
}

export function FindingsScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  const entries = useQuery(catalogue.all()).data ?? [];
  const weights = useWeights(site);
  if (!run) return <NoRun site={site} />;
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(view);
    if (value) next.set(name, value);
    else next.delete(name);
    setView(next, { replace: true });
  };
  const [by, severity, area, sort] = ["by", "severity", "area", "sort"].map((k) => view.get(k) ?? "");
  const outcome = view.get("outcome") ?? "";
  const [state, todo] = [view.get("state") ?? "", view.get("todo") ?? ""];
  const listsRows = by === "" || by === "cause";
  const weight = weights.find((each) => each.value === view.get("weight"))?.value ?? "gain";
  const now = new Date(run.requested_at);
  const terms = new Map(entries.map((e) => [e.id, (e.terms ?? []).join(" ")]));
  const named = (id: string, ...texts: string[]) => holds(view.get("q") ?? "", id, terms.get(id) ?? "", ...texts);
  const shown = (row: { severity: SeverityName }) => !severity || row.severity === severity;
  return (
    <Card
      title={TITLES[by as keyof typeof TITLES] ?? TITLES.check}
      aside={
        <span className="flex flex-wrap items-center gap-1.5">
          <SearchInput label="Search findings" value={view.get("q") ?? ""} onChange={(typed) => set("q", typed)} />
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
          <Downloads items={runExports(run.id, { severity, causes: by === "cause" })} />
        </span>
      }
    >
      {listsRows && (
        <div className="mb-2.5 flex flex-wrap gap-2">
          <div className="w-52">
            <Select aria-label="State" value={state} onChange={(value) => set("state", value)} choices={STATES} />
          </div>
          <div className="w-52">
            <Select aria-label="To-do" value={todo} onChange={(value) => set("todo", value)} choices={HANDED_OUT} />
          </div>
          {weights.length > 1 && (
            <div className="w-64">
              <Select
                aria-label="Order of work"
                value={weight}
                onChange={(value) => set("weight", value === "gain" ? "" : value)}
                choices={weights}
              />
            </div>
          )}
        </div>
      )}
      <Tabs
        label="Findings"
        value={by || "check"}
        onChange={(value) => set("by", value === "check" ? "" : value)}
        views={[
          { value: "check", label: "by check" },
          { value: "cause", label: "by cause" },
          { value: "page", label: "by page" },
          { value: "folder", label: "by folder" },
          { value: "template", label: "by template" },
          { value: "area", label: "by area" },
          { value: "quiet", label: "without findings" },
        ]}
      >
        {by === "quiet" ? (
          <QuietChecks
            runId={run.id}
            outcome={outcome in QUIET ? (outcome as Quiet) : "passed"}
            choose={(name) => set("outcome", name === "passed" ? "" : name)}
            shown={(row) => shown(row) && (!area || row.area === area) && named(row.id, row.summary)}
          />
        ) : by === "page" ? (
          <PagesWithFindings runId={run.id} severity={severity ?? ""} text={view.get("q") ?? ""} />
        ) : by === "folder" || by === "template" ? (
          <FindingsByBranch key={by} runId={run.id} by={by} />
        ) : by === "area" ? (
          <FindingsByArea runId={run.id} shown={shown} />
        ) : by === "cause" ? (
          <Causes
            runId={run.id}
            weight={weight}
            shown={(row) => shown(row) && isLike(row, state, todo, run) && named(row.check, row.summary, row.line)}
            now={now}
          />
        ) : (
          <Checks
            runId={run.id}
            weight={weight}
            shown={(row) =>
              shown(row) &&
              (!area || row.area === area) &&
              isLike(row, state, todo, run) &&
              named(row.id, row.summary, row.cause)
            }
            sort={sort ?? ""}
            onSort={(order) => set("sort", order)}
            now={now}
          />
        )}
      </Tabs>
    </Card>
  );
}

const WEIGHTS: readonly { value: Weight; label: string; kind?: FigureKind }[] = [
  { value: "gain", label: "in the order of gain" },
  { value: "clicks", label: "in the order of clicks", kind: "search" },
  { value: "impressions", label: "in the order of impressions", kind: "search" },
  { value: "visits", label: "in the order of visits", kind: "visits" },
];

/** What work can be put in order by: gain, and what the site has figures of. */
function useWeights(site: Site) {
  const may = useMay();
  const sets = useQuery({ ...figures.sets(site.id), enabled: may("list_figures") }).data ?? [];
  return WEIGHTS.filter((each) => !each.kind || sets.some((set) => set.kind === each.kind));
}

/** What the pages of a row get from outside, where that is what rows are put in order by. */
function weightColumn<R extends { weight?: number | null }>(weight: Weight): Column<R>[] {
  if (weight === "gain") return [];
  const head = weight.charAt(0).toUpperCase() + weight.slice(1);
  return [{ head, sort: (r) => r.weight ?? 0, number: true, cell: (r) => count(r.weight) }];
}

type ChecksProps = {
  runId: string;
  weight: Weight;
  shown: (row: Check) => boolean;
  sort: string;
  onSort: (order: string) => void;
  now: Date;
};

function Checks({ runId, weight, shown, sort, onSort, now }: ChecksProps) {
  const { site } = useSite();
  const checks = useQuery(findings.checks(runId, weight));
  return (
    <Loaded query={checks} tall={12}>
      {(rows) => (
        <Table
          rows={rows.filter(shown)}
          id={(r) => r.id}
          name="checks"
          act={(chosen, clear) => <Chosen checks={chosen.map((r) => r.id)} made={clear} />}
          sorted={sort}
          onSort={onSort}
          caption="Checks that fail"
          empty="All checks pass."
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
            {
              head: "Places",
              sort: (r) => r.findings,
              number: true,
              cell: (r) => (
                <>
                  {count(r.findings)}
                  {r.waived > 0 && <span className="text-ink-3 block text-sm">+{r.waived} waived</span>}
                </>
              ),
            },
            { head: "Pages", sort: (r) => r.pages, number: true, cell: (r) => count(r.pages) },
            { head: "Fixes", sort: (r) => r.fixes, number: true, cell: (r) => count(r.fixes) },
            ...weightColumn<Check>(weight),
            {
              head: "Per fix",
              sort: (r) => r.gain / Math.max(1, r.fixes),
              number: true,
              cell: (r) => <span className="text-good">{r.findings ? gain(r.gain / Math.max(1, r.fixes)) : ""}</span>,
            },
            {
              head: "Gain",
              sort: (r) => r.gain,
              number: true,
              cell: (r) => <span className="text-good">{r.findings ? gain(r.gain) : ""}</span>,
            },
            {
              head: "Change",
              sort: (r) => r.change ?? 0,
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
            { head: "Since", sort: (r) => r.since, cell: (r) => <Since row={r} now={now} /> },
            { head: "To-do", cell: (r) => (r.findings ? <TodoCell site={site} row={r} /> : "") },
          ]}
        />
      )}
    </Loaded>
  );
}

/** What can be done with checks or causes that were chosen. */
function Chosen({ checks = [], causes = [], made }: { checks?: string[]; causes?: number[]; made: () => void }) {
  const { site } = useSite();
  const may = useMay();
  const query = new URLSearchParams({
    ...(checks.length ? { checks: checks.join(",") } : {}),
    ...(causes.length ? { causes: causes.join(",") } : {}),
  });
  const what = checks.length ? plural(checks.length, "check") : plural(causes.length, "cause");
  return (
    <span className="flex gap-3">
      <Link to={`/sites/${site.id}/fixes?${query}`}>Plan the fixes</Link>
      {may("add_todo") && (
        <MakeTodo quiet site={site} checks={checks} causes={causes} title={what} label="Create to-dos" made={made} />
      )}
      {checks.length > 0 && may("add_waivers") && (
        <Waive quiet checks={checks} summary={what} label="Waive" made={made} />
      )}
    </span>
  );
}

function Since({ row, now }: { row: Check | Cause; now: Date }) {
  return (
    <span className="text-sm whitespace-nowrap">
      {row.times_returned > 0 && "↺ "}
      {age(row.since, now)}
    </span>
  );
}

type CausesProps = { runId: string; weight: Weight; shown: (row: Cause) => boolean; now: Date };

function Causes({ runId, weight, shown, now }: CausesProps) {
  const { site } = useSite();
  const may = useMay();
  const causes = useQuery(findings.causes(runId, weight));
  return (
    <Loaded query={causes} tall={12}>
      {(rows) => (
        <Table
          rows={rows.filter(shown)}
          name="causes"
          act={(chosen, clear) => <Chosen causes={chosen.map((r) => r.id)} made={clear} />}
          id={(r) => r.id}
          caption="Causes: each is one fix"
          empty="No causes here."
          columns={[
            { head: "Severity", sort: (r) => severityRank(r.severity), cell: (r) => <Severity name={r.severity} /> },
            {
              head: "Cause",
              sort: (r) => r.line,
              cell: (r) => (
                <>
                  <Link to={`/sites/${site.id}/checks/${r.check}?cause=${r.id}`} className="text-ink">
                    <Address text={r.line} chars={84} className="!font-sans" />
                  </Link>
                  <div className="text-ink-3 text-sm">{r.summary}</div>
                </>
              ),
            },
            { head: "Places", sort: (r) => r.findings, number: true, cell: (r) => count(r.findings) },
            { head: "Pages", sort: (r) => r.pages, number: true, cell: (r) => count(r.pages) },
            ...weightColumn<Cause>(weight),
            {
              head: "Gain",
              sort: (r) => r.gain,
              number: true,
              cell: (r) => <span className="text-good">{r.findings ? gain(r.gain) : ""}</span>,
            },
            { head: "Since", sort: (r) => r.since, cell: (r) => <Since row={r} now={now} /> },
            {
              head: "To-do",
              cell: (r) =>
                r.todos?.[0] ? (
                  <Link to={`/todos/${r.todos[0].id}`} className="text-sm whitespace-nowrap">
                    {r.todos[0].assignee.split(" ")[0] || "to-do"},{" "}
                    {r.todos[0].due ? day(r.todos[0].due) : r.todos[0].state}
                  </Link>
                ) : (
                  may("add_todo") && (
                    <MakeTodo
                      site={site}
                      cause={r.id}
                      title={`${r.summary}: ${r.line}`.slice(0, 200)}
                      label="to-do"
                      quiet
                    />
                  )
                ),
            },
          ]}
        />
      )}
    </Loaded>
  );
}
