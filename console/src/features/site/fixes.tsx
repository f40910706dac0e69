/** Plan the fixes: checks and causes that are chosen, and the health they would give back together. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { findings, structures } from "../../api/queries/runs";
import type { Fixes, Run, Site } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, gain, plural, points } from "../../lib/words";
import { Combo } from "../../ui/combo";
import { Labelled } from "../../ui/controls";
import { Downloads } from "../../ui/downloads";
import { Card, LinkButton } from "../../ui/parts";
import { Course, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { useSite } from "./context";
import { workLists } from "./exports";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";

type Item = Fixes["items"][number];

export function FixesScreen() {
  const { site, run } = useSite();
  if (!run) return <NoRun site={site} />;
  return <Content site={site} run={run} />;
}

const listed = (text: string | null) => (text ?? "").split(",").filter(Boolean);

function Content({ site, run }: { site: Site; run: Run }) {
  const [view, set] = useAddress();
  const checks = listed(view.get("checks"));
  const causes = listed(view.get("causes")).map(Number).filter(Number.isInteger);
  const found = useQuery(structures.fixes(run.id, { checks, causes }));
  const remove = (item: Item) =>
    item.cause === null
      ? set("checks", checks.filter((each) => each !== item.check).join(","))
      : set("causes", causes.filter((each) => each !== item.cause).join(","));
  return (
    <Loaded query={found} tall={12}>
      {(data) => (
        <div className="grid items-start gap-4 lg:grid-cols-[1fr_1.9fr]">
          <Together data={data} site={site} run={run} checks={checks} causes={causes} />
          <Card title="Fixes" aside={<Link to={`/sites/${site.id}/findings`}>choose more in Findings</Link>}>
            <AddCheck run={run} chosen={checks} add={(id) => set("checks", [...checks, id].join(","))} />
            <Table
              rows={data.items}
              id={(row) => `${row.check} ${row.cause ?? ""}`}
              caption="What would be fixed"
              empty="Nothing is chosen yet. Add a check here, or choose checks and causes in Findings."
              columns={[
                { head: "Severity", cell: (row) => <Severity name={row.severity} /> },
                {
                  head: "Fix",
                  cell: (row) => (
                    <Link
                      to={`/sites/${site.id}/checks/${row.check}${row.cause === null ? "" : `?cause=${row.cause}`}`}
                      className="text-ink"
                    >
                      {row.text}
                    </Link>
                  ),
                },
                { head: "Fixes", number: true, cell: (row) => count(row.fixes) },
                { head: "Effort", cell: (row) => row.effort },
                { head: "Places", number: true, cell: (row) => count(row.findings) },
                {
                  head: "Alone",
                  number: true,
                  sort: (row) => row.gain,
                  cell: (row) => <span className="text-good">{gain(row.gain)}</span>,
                },
                {
                  head: "Remove",
                  quiet: true,
                  cell: (row) => (
                    <LinkButton aria-label={`Take out: ${row.text}`} onClick={() => remove(row)}>
                      take out
                    </LinkButton>
                  ),
                },
              ]}
            />
          </Card>
        </div>
      )}
    </Loaded>
  );
}

function Together({
  data,
  site,
  run,
  checks,
  causes,
}: {
  data: Fixes;
  site: Site;
  run: Run;
  checks: string[];
  causes: number[];
}) {
  const may = useMay();
  const say = useSay();
  const copy = () =>
    void navigator.clipboard
      .writeText(asList(data, site, run))
      .then(() => say("The list is copied as Markdown, for a report or a mail."));
  const efforts = Object.entries(data.effort).map(([effort, n]) => `${count(n)} ${effort}`);
  return (
    <Card title="Together">
      {data.health === null || data.health_after === null ? (
        <p>No page was scored, so there is no health to gain.</p>
      ) : (
        <div aria-live="polite">
          <p className="text-[26px] leading-8 font-semibold tabular-nums">
            {points(data.health)} → {points(data.health_after)}
          </p>
          <div className="my-1.5">
            <Course health={data.health_after} brick={10} height={16} />
          </div>
          <p>
            <b className="text-good font-semibold">{gain(data.gain ?? 0)}</b> points in health
            {Math.abs(data.singly - (data.gain ?? 0)) >= 0.05 && (
              <span className="text-ink-3">
                ; one by one they would add up to {gain(data.singly)}, because pages share faults
              </span>
            )}
          </p>
        </div>
      )}
      <dl className="mt-2 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-0.5">
        <dt className="text-ink-3">Findings</dt>
        <dd>
          {count(data.findings)} on {plural(data.subjects, "URL")}
        </dd>
        <dt className="text-ink-3">Fixes</dt>
        <dd>
          {count(data.fixes)}
          {efforts.length > 0 && `, by effort ${efforts.join(", ")}`}
        </dd>
      </dl>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {may("add_todo") && (
          <MakeTodo
            main
            site={site}
            checks={checks}
            causes={causes}
            title={data.items.length === 1 ? (data.items[0]?.text ?? "") : `${plural(data.fixes, "fix")} together`}
            label="Create to-dos"
            disabled={data.items.length === 0}
          />
        )}
        {data.items.length > 0 && <Downloads label="Work list" items={workLists(run.id, checks, causes)} />}
        <LinkButton disabled={data.items.length === 0} onClick={copy}>
          Copy as list
        </LinkButton>
      </div>
    </Card>
  );
}

/** One more of the checks that fail. */
function AddCheck({ run, chosen, add }: { run: Run; chosen: string[]; add: (id: string) => void }) {
  const rows = (useQuery(findings.checks(run.id)).data ?? []).filter((row) => row.findings && !chosen.includes(row.id));
  const byLabel = new Map(rows.map((row) => [`${row.summary} (${gain(row.gain)})`, row.id]));
  return (
    <div className="mb-2.5 w-80 max-w-full">
      <Labelled label="Add a check">
        {(tied) => (
          <Combo
            key={chosen.join()}
            {...tied}
            value=""
            choices={[...byLabel.keys()]}
            onChange={(label) => {
              const id = byLabel.get(label);
              if (id) add(id);
            }}
          />
        )}
      </Labelled>
    </div>
  );
}

/** The plan as Markdown. */
function asList(data: Fixes, site: Site, run: Run): string {
  const head =
    data.health === null || data.health_after === null
      ? []
      : [`Health ${points(data.health)} → ${points(data.health_after)} when all of this is fixed.`, ""];
  return [
    `# Fixes for ${site.host}`,
    "",
    `Audit of ${run.requested_at.slice(0, 10)}. ${plural(data.findings, "finding")} on ${plural(data.subjects, "URL")}, ${plural(data.fixes, "fix")}.`,
    "",
    ...head,
    ...data.items.map(
      (item) =>
        `- [ ] ${item.text} (${item.severity}, ${item.effort} effort, ${plural(item.findings, "place")}, ${gain(item.gain)} alone)`,
    ),
    "",
  ].join("\n");
}
