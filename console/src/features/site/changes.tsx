import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { runs } from "../../api/queries/runs";
import { plans } from "../../api/queries/sites";
import type { Change as ChangeName } from "../../api/types";
import { count, moment, place, plural, points, signed, tooFewShared } from "../../lib/words";
import { Labelled, Select } from "../../ui/controls";
import { Address, Card, Chip } from "../../ui/parts";
import { Change, CHANGES, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSite } from "./context";
import { NoRun } from "./no-run";
import { Subject } from "./subject";

const NAMES = Object.keys(CHANGES) as ChangeName[];

export function ChangesScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  const finished = useQuery(runs.finished(site));
  const done = (finished.data ?? []).filter((r) => r.file === "kept");
  if (!run) return <NoRun site={site} />;
  const audits = done.filter((r) => r.purpose !== "re-examination");
  const head = view.get("head") ?? audits[0]?.id ?? "";
  const chosen = done.find((r) => r.id === head);
  const after = audits.findIndex((r) => r.id === head);
  const base = view.get("base") ?? chosen?.source_id ?? audits[after + 1]?.id ?? "";
  const set = (values: Record<string, string>) => setView({ base, head, ...values }, { replace: true });
  return (
    <>
      <div className="mb-3.5 flex flex-wrap gap-3">
        {(
          [
            ["Base, the earlier run", "base", base],
            ["Head, the later run", "head", head],
          ] as const
        ).map(([label, key, value]) => (
          <Labelled key={key} label={label}>
            {(tied) => (
              <Select
                {...tied}
                value={value}
                onChange={(id) => set({ [key]: id })}
                choices={done.map((r) => ({
                  value: r.id,
                  label: `${moment(r.requested_at)} · health ${points(r.health)}${r.partial ? " · partial" : ""}${r.purpose === "re-examination" ? " · re-examined" : ""}`,
                }))}
              />
            )}
          </Labelled>
        ))}
      </div>
      {done.length < 2 ? (
        <p className="text-ink-3">A comparison needs two finished runs.</p>
      ) : (
        base &&
        head && (
          <Compared
            base={base}
            head={head}
            change={NAMES.find((name) => name === view.get("change")) ?? ""}
            onChange={(change) => setView({ base, head, ...(change ? { change } : {}) }, { replace: true })}
          />
        )
      )}
    </>
  );
}

function Compared({
  base,
  head,
  change,
  onChange,
}: {
  base: string;
  head: string;
  change: ChangeName | "";
  onChange: (name: ChangeName | "") => void;
}) {
  const { site } = useSite();
  const found = useQuery(runs.compare(base, head, change));
  const settings = useQuery(plans.settings()).data ?? [];
  const label = (name: string) => settings.find((s) => s.name === name)?.label ?? name;
  return (
    <Loaded query={found} tall={14}>
      {(data) => (
        <div className="space-y-3.5">
          {data.settings.length > 0 && (
            <div className="bg-clay-soft rounded-md px-3 py-1.5">
              These settings differ and may explain a jump:{" "}
              {data.settings.map((s) => (
                <span key={s.name} className="block text-sm">
                  <b className="font-semibold">{label(s.name)}</b>: {s.base} → {s.head}
                </span>
              ))}
            </div>
          )}
          <Card
            title={
              data.base_health !== null && data.head_health !== null
                ? `Health ${points(data.base_health)} → ${points(data.head_health)} (${data.health_change === null ? `not compared: ${tooFewShared(data.health)}` : signed(data.health_change)})`
                : "Findings"
            }
            aside={`${count(data.base_findings)} findings then, ${count(data.head_findings)} now${data.reconciles ? "; the classes add up" : ""}`}
          >
            <div className="flex flex-wrap gap-1.5">
              <Chip on={!change} onClick={() => onChange("")}>
                all {count(Object.values(data.counts).reduce((a, b) => a + b, 0))}
              </Chip>
              {NAMES.filter((n) => data.counts[n]).map((name) => (
                <Chip key={name} on={change === name} onClick={() => onChange(change === name ? "" : name)}>
                  <Change name={name} /> {count(data.counts[name])}
                </Chip>
              ))}
            </div>
            {change === "check-changed" && (
              <p className="text-ink-2 mt-2 text-sm">
                The rule of these checks is not the one of the earlier run, so nobody can say whether the site or the
                rule made the difference. From the next run on they are compared as usual.
              </p>
            )}
            <div className="mt-3">
              <Table
                rows={data.findings}
                id={(r) => r.fingerprint}
                caption="Findings by class"
                empty="No findings of this class."
                columns={[
                  { head: "Class", cell: (r) => <Change name={r.change} /> },
                  { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
                  { head: "Check", cell: (r) => <Link to={`/sites/${site.id}/checks/${r.check}`}>{r.summary}</Link> },
                  {
                    head: "On",
                    className: "min-w-44",
                    cell: (r) => <Subject siteId={site.id} host={site.host} subject={r.subject} chars={44} />,
                  },
                  { head: "Place", cell: (r) => <Address text={place(r.place, site.host)} chars={40} /> },
                ]}
              />
              {data.findings_total > data.findings.length && (
                <p className="text-ink-3 mt-1 text-sm">
                  The first {data.findings.length} of {count(data.findings_total)}. Choose a class to narrow them down.
                </p>
              )}
            </div>
          </Card>
          {data.robots_diff.length > 0 && (
            <Card title="robots.txt" aside={`${plural(data.newly_blocked.length, "known page")} newly blocked`}>
              <pre className="overflow-x-auto font-mono text-sm" tabIndex={0}>
                {data.robots_diff.slice(2).map((line, i) => (
                  <div
                    key={i}
                    className={
                      line.startsWith("+")
                        ? "text-bad font-semibold"
                        : line.startsWith("-")
                          ? "text-good"
                          : "text-ink-2"
                    }
                  >
                    {line}
                  </div>
                ))}
              </pre>
            </Card>
          )}
          <Card
            title="Page changes"
            aside={`${plural(data.page_changes_total, "change")} · ${plural(data.pages_appeared.length, "page")} appeared, ${data.pages_gone.length} gone`}
          >
            <Table
              rows={data.page_changes}
              id={(r) => r.url + r.field}
              caption="Facts of pages that differ"
              empty="Status, titles, descriptions, canonicals and directives are the same."
              columns={[
                {
                  head: "Page",
                  className: "min-w-44",
                  cell: (r) => (
                    <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(r.url)}`}>
                      <Address text={place(r.url, site.host)} chars={44} />
                    </Link>
                  ),
                },
                { head: "What", cell: (r) => r.field },
                { head: "Before", cell: (r) => <span className="text-ink-3 break-words">{r.base || "empty"}</span> },
                { head: "After", cell: (r) => <span className="break-words">{r.head || "empty"}</span> },
              ]}
            />
          </Card>
          {(data.pages_appeared.length > 0 || data.pages_gone.length > 0) && (
            <div className="grid gap-4 lg:grid-cols-2">
              {(
                [
                  ["Pages appeared", data.pages_appeared],
                  ["Pages gone from the site", data.pages_gone],
                ] as const
              ).map(([title, urls]) => (
                <Card key={title} title={title}>
                  <ul className="max-h-60 overflow-y-auto" tabIndex={0}>
                    {urls.map((url) => (
                      <li key={url}>
                        <Address text={place(url, site.host)} chars={70} />
                      </li>
                    ))}
                    {urls.length === 0 && <li className="text-ink-3">none</li>}
                  </ul>
                </Card>
              ))}
            </div>
          )}
        </div>
      )}
    </Loaded>
  );
}
