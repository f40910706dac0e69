import { useQuery } from "@tanstack/react-query";
import { useContext } from "react";
import { useSearchParams } from "react-router";
import { comparisons, runs } from "../../api/queries/runs";
import { plans, sites } from "../../api/queries/sites";
import type { Comparison, RunBrief } from "../../api/types";
import { moment, plural, points, tooFewShared } from "../../lib/words";
import { Labelled, Segments, Select } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Balance } from "./compared-findings";
import { ComparedTabs } from "./compared-tabs";
import { auditBefore, inLine, VISITORS } from "./appearance";
import { Columns } from "./columns";
import { EarlierRun, useSite } from "./context";
import { Bridge, Happened } from "./happened";
import { NoRun } from "./no-run";
import { RobotsLines } from "./robots-lines";
import { UserAgents } from "./user-agents";

const MONTH_MS = 30 * 86_400_000;
type Quick = "previous" | "month" | "first" | "choose" | "columns" | "agents";
const TABS_KEPT = ["check", "cause", "page", "folder", "template", "changes", "urls"];

/** The runs that a head is quickly compared with: the one before it, the one closest to a month before it, the first. */
export function quickBases(
  audits: readonly RunBrief[],
  head: string,
): Record<"previous" | "month" | "first", RunBrief | undefined> {
  const at = audits.findIndex((r) => r.id === head);
  const earlier = at < 0 ? [] : audits.slice(at + 1);
  const wanted = at < 0 ? 0 : new Date(audits[at]?.requested_at ?? "").getTime() - MONTH_MS;
  const away = (run: RunBrief) => Math.abs(new Date(run.requested_at).getTime() - wanted);
  const month = [...earlier].sort((a, b) => away(a) - away(b))[0];
  return { previous: earlier[0], month, first: earlier.at(-1) };
}

export function ChangesScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  const finished = useQuery(runs.finished(site));
  const earlier = useContext(EarlierRun);
  const own = useQuery(sites.all("own")).data ?? [];
  if (!run) return <NoRun site={site} />;
  const done = (finished.data ?? []).filter((r) => r.file === "kept");
  const audits = done.filter(inLine);
  const head = view.get("head") ?? (earlier ? run.id : audits[0]?.id) ?? "";
  // The live host of a staging host, or the other way round: compared by path.
  const siblings = own.flatMap((s) =>
    s.client_id === site.client_id && s.id !== site.id && s.last_run && s.last_run.state !== "failed"
      ? [{ value: s.last_run.id, label: runLabel(s.last_run), group: `${s.host}, by path` }]
      : [],
  );
  const chosen = done.find((r) => r.id === head);
  const asOther = chosen?.appearance !== undefined && chosen.appearance !== null;
  // What is quickly chosen is of the site's own line, whichever other run is shown.
  const inLineHead = asOther ? (audits[0]?.id ?? "") : head;
  const quick = quickBases(audits, inLineHead);
  const before = chosen && asOther ? auditBefore(audits, chosen) : quick.previous;
  const base = view.get("base") ?? chosen?.source_id ?? before?.id ?? "";
  const names = (["previous", "month", "first"] as const).filter((name) => !asOther && quick[name]?.id === base);
  const asked = (view.get("since") ?? "") as Quick | "";
  const on: Quick =
    asked === "choose" || asked === "columns" || asked === "agents"
      ? asked
      : (names.find((name) => name === asked) ?? names[0] ?? (asOther ? "agents" : "choose"));
  const tab = TABS_KEPT.filter((name) => name === view.get("by"));
  const set = (values: Record<string, string>) =>
    setView({ base, head, ...Object.fromEntries(tab.map((by) => ["by", by])), ...values }, { replace: true });
  const compareWith = (made: RunBrief | undefined) =>
    set({ ...(made && { base: auditBefore(audits, made)?.id ?? "", head: made.id, by: "changes" }), since: "agents" });
  const choose = (name: Quick) => {
    if (name === "choose" || name === "columns") set({ since: name });
    else if (name === "agents") compareWith(chosen && asOther ? chosen : done.find((r) => r.appearance));
    else set({ head: inLineHead, base: quick[name]?.id ?? base, since: name });
  };
  const shown = on === "agents" ? asOther : on !== "columns";
  if (finished.data && done.length < 2 && siblings.length === 0 && on !== "agents")
    return <p className="text-ink-3">A comparison needs two finished runs with their files.</p>;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-2">
        <Segments
          label="Compare with"
          value={on}
          onChange={choose}
          choices={[
            { value: "previous", label: "Previous run", disabled: !quick.previous },
            { value: "month", label: "A month ago", disabled: !quick.month },
            { value: "first", label: "First run", disabled: !quick.first },
            { value: "choose", label: "Choose…" },
            { value: "columns", label: "Side by side" },
            { value: "agents", label: "User agents" },
          ]}
        />
        {shown && (
          <Span base={done.find((r) => r.id === base)} head={chosen} latest={asOther || audits[0]?.id === head} />
        )}
      </div>
      {on === "columns" && <Columns audits={audits} />}
      {on === "agents" && <UserAgents site={site} head={head} choose={compareWith} />}
      {on === "choose" && (
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
                  onChange={(id) => set({ [key]: id, since: "choose" })}
                  choices={[
                    ...done.map((r) => ({ value: r.id, label: runLabel(r), group: site.host })),
                    ...(key === "base" ? siblings : []),
                  ]}
                />
              )}
            </Labelled>
          ))}
        </div>
      )}
      {base && head && shown && <Compared base={base} head={head} latest={audits[0]?.id === head} />}
    </>
  );
}

const differing = (settings: number) => `${plural(settings, "setting")} ${settings === 1 ? "differs" : "differ"}`;

const runLabel = (r: RunBrief) =>
  `${moment(r.requested_at)} · health ${points(r.health)}${r.partial ? " · partial" : ""}${r.purpose === "re-examination" ? " · re-examined" : ""}${r.appearance ? ` · as ${VISITORS[r.appearance]}` : ""}`;

function Span({ base, head, latest }: { base: RunBrief | undefined; head: RunBrief | undefined; latest: boolean }) {
  const data = useQuery({ ...comparisons.whole(base?.id ?? "", head?.id ?? ""), enabled: !!base && !!head }).data;
  if (!base || !head) return null;
  return (
    <span className="text-ink-3 text-sm">
      {moment(base.requested_at)} → {moment(head.requested_at)}
      {data && (data.settings.length ? ` · ${differing(data.settings.length)}` : " · same plan, same catalogue")}
      {!latest && <b className="text-bad font-semibold"> · not the latest run</b>}
    </span>
  );
}

function Compared({ base, head, latest }: { base: string; head: string; latest: boolean }) {
  const found = useQuery(comparisons.whole(base, head));
  return (
    <Loaded query={found} tall={14}>
      {(data) => (
        <div className="space-y-3.5">
          {data.base_host !== data.head_host && (
            <p role="status" className="bg-accent-soft rounded-md px-3 py-1.5">
              Compared by path: {data.base_host} beside {data.head_host}. What is fixed or gone stands with the address
              it had there.
            </p>
          )}
          <Visitors data={data} />
          <Differences data={data} />
          <div className="grid items-start gap-3.5 lg:grid-cols-[1.75fr_1fr]">
            <Happened data={data} latest={latest} />
            <div className="min-w-0 space-y-3.5">
              {data.events.some((event) => event.shown !== null) && <Bridge data={data} />}
              {data.robots_lines.length > 0 && (
                <Card title="robots.txt">
                  <RobotsLines lines={data.robots_lines} />
                </Card>
              )}
            </div>
          </div>
          <Balance data={data} />
          <ComparedTabs data={data} />
        </div>
      )}
    </Loaded>
  );
}

/** What the classes mean where the two runs appeared as different user agents. */
function Visitors({ data }: { data: Comparison }) {
  const told = data.settings.find((setting) => setting.name === "appearance");
  if (!told) return null;
  const [base, head] = [told.base, told.head].map((name) => VISITORS[name as keyof typeof VISITORS]);
  return (
    <p role="status" className="bg-accent-soft rounded-md px-3 py-1.5">
      Two user agents are compared, crawled {moment(data.base_at)} and {moment(data.head_at)}. New findings were met by{" "}
      {head} alone, fixed and gone ones by {base} alone. What changed on the site in between is among them.
    </p>
  );
}

/** What makes the two runs differ that is not the site: settings, the catalogue, how much of the site each examined. */
function Differences({ data }: { data: Comparison }) {
  const settings = useQuery(plans.settings()).data ?? [];
  const label = (name: string) => settings.find((s) => s.name === name)?.label ?? name;
  const few = data.base_health !== null && data.head_health !== null && data.health_change === null;
  // Another user agent is told above.
  const told = data.settings.filter((setting) => setting.name !== "appearance");
  if (told.length === 0 && !few) return null;
  return (
    <div className="bg-clay-soft rounded-md px-3 py-1.5">
      {few && <p>Health is not compared: {tooFewShared(data.health)}.</p>}
      {told.length > 0 && (
        <details open={told.length <= 3}>
          <summary>{differing(told.length)} and may explain a jump</summary>
          {told.map((s) => (
            <span key={s.name} className="block text-sm">
              <b className="font-semibold">{label(s.name)}</b>: {s.base} → {s.head}
            </span>
          ))}
        </details>
      )}
    </div>
  );
}
