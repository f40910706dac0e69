import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { desk as desks } from "../../api/queries/desk";
import type { Desk, DeskSite } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, day, holds, moment, points, signed } from "../../lib/words";
import { SearchInput, Select } from "../../ui/controls";
import { besideRuns } from "../../lib/remark-marks";
import { Bar, Course, Line, Severity } from "../../ui/signs";
import { buttonClass, Card, Chip, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { SavedViews } from "../shell/saved-views";
import { News } from "./news";

const ITEMS_SHOWN = 8;
const KINDS: Record<Desk["items"][number]["kind"], string> = {
  change: "worse",
  failed: "run failed",
  stuck: "stuck",
  stale: "no audit",
  waiver: "waiver",
  certificate: "certificate",
  todo: "overdue",
  mail: "not sent",
  webhook: "webhook",
  report: "report",
  feed: "figures",
  domain: "domain",
  service: "service",
};

type Order = "attention" | "health" | "name";
const NAMES: readonly Order[] = ["attention", "health", "name"];
const ORDERS: Record<Order, { label: string; by: (a: DeskSite, b: DeskSite) => number }> = {
  attention: { label: "needs attention", by: (a, b) => b.attention - a.attention },
  health: { label: "lowest health", by: (a, b) => (a.site.health ?? 101) - (b.site.health ?? 101) },
  name: { label: "name", by: (a, b) => a.site.client_name.localeCompare(b.site.client_name) },
};

export function DeskScreen() {
  const desk = useQuery(desks.now());
  return (
    <Loaded query={desk} tall={14}>
      {(data) => <DeskContent desk={data} />}
    </Loaded>
  );
}

function DeskContent({ desk }: { desk: Desk }) {
  const may = useMay();
  const today = new Date(desk.now).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  return (
    <>
      <Title of={["Desk"]} />
      <Heading title={today}>
        <SavedViews place="desk" />
        {may("add_site") && (
          <Link to="/clients?add=site" className={buttonClass(true)}>
            Add site
          </Link>
        )}
      </Heading>
      <p className="text-ink-3">{desk.sentence}</p>
      {desk.building && (
        <p role="status" className="bg-accent-soft mt-2 rounded-md px-3 py-1.5">
          The history is still being made: {desk.building}. Figures appear as the audits are done.
        </p>
      )}
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[1.75fr_1fr]">
        <Card title="Needs attention" aside={desk.items.length > 0 && String(desk.items.length)}>
          <NeedsPerson desk={desk} />
        </Card>
        <div className="min-w-0 space-y-4">
          <Card title="My to-dos" aside={`${desk.overdue} overdue · ${desk.this_week} this week`}>
            <MyTodos desk={desk} />
          </Card>
          <News desk={desk} />
        </div>
      </div>
      <SitesTable desk={desk} />
    </>
  );
}

function NeedsPerson({ desk }: { desk: Desk }) {
  const may = useMay();
  const [all, setAll] = useState(false);
  const acknowledge = useChange(desks.acknowledge());
  if (desk.items.length === 0)
    return (
      <p className="text-ink-3 py-1">
        {desk.quiet ? "Everything is quiet: " : "Nothing needs attention: "}no site got worse, no audit failed, nobody
        is late.
      </p>
    );
  const shown = all ? desk.items : desk.items.slice(0, ITEMS_SHOWN);
  return (
    <>
      <ul>
        {shown.map((item) => (
          <Item
            key={`${item.kind} ${item.alert_id ?? ""} ${item.link} ${item.text}`}
            item={item}
            onAcknowledge={
              may("acknowledge_alert") && item.alert_id ? () => acknowledge.mutate(item.alert_id as number) : undefined
            }
          />
        ))}
      </ul>
      {acknowledge.error && <Trouble error={acknowledge.error} />}
      {desk.items.length > ITEMS_SHOWN && (
        <LinkButton className="mt-2" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `Show all ${desk.items.length}`}
        </LinkButton>
      )}
    </>
  );
}

function Item({ item, onAcknowledge }: { item: Desk["items"][number]; onAcknowledge?: () => void }) {
  return (
    <li className="border-line flex gap-3 border-b py-2 last:border-b-0">
      <span className="w-20 shrink-0">
        {item.severity ? <Severity name={item.severity} /> : <span className="text-ink-3">{KINDS[item.kind]}</span>}
      </span>
      <span className="min-w-0 flex-1">
        <b className="font-semibold">{item.text}</b>
        {item.client_name && ` · ${item.client_name}`}
        {item.since && <span className="text-ink-3 text-sm"> · since {day(item.since)}</span>}
        {item.detail && <span className="text-ink-2 block text-sm break-words">{item.detail}</span>}
      </span>
      <span className="flex shrink-0 flex-col items-end">
        <Link
          to={item.link}
          className="inline-block min-h-[24px] leading-6"
          aria-label={`${item.action}: ${item.text}`}
        >
          {item.action}
        </Link>
        {onAcknowledge && (
          <LinkButton
            className="min-h-[24px] text-sm leading-6"
            aria-label={`Acknowledge: ${item.text}${item.host && `, ${item.host}`}`}
            title="Hides this from the desk until more findings appear"
            onClick={onAcknowledge}
          >
            Acknowledge
          </LinkButton>
        )}
      </span>
    </li>
  );
}

function MyTodos({ desk }: { desk: Desk }) {
  if (desk.my_todos.length === 0)
    return <p className="text-ink-3 py-1">You have no to-dos. Create one from the findings of a site.</p>;
  return (
    <ul>
      {desk.my_todos.map((todo) => (
        <li key={todo.id} className="border-line flex gap-3 border-b py-2 last:border-b-0">
          <span className="min-w-0 flex-1">
            <Link to={`/todos/${todo.id}`} className="text-ink font-semibold break-words">
              {todo.title}
            </Link>
            <span className="text-ink-3 block text-sm">
              {todo.client_name}
              {todo.places > 0 && ` · ${todo.cleared} of ${todo.places} cleared`}
            </span>
            {todo.places > 1 && (
              <Bar share={todo.cleared / todo.places} label={`${todo.cleared} of ${todo.places} cleared`} />
            )}
          </span>
          <span className={`whitespace-nowrap ${todo.overdue ? "text-bad" : ""}`}>
            {todo.overdue ? (todo.days_late === 1 ? "yesterday" : `${todo.days_late} days late`) : day(todo.due)}
          </span>
        </li>
      ))}
    </ul>
  );
}

const tagsOf = (row: DeskSite) => [...(row.site.tags ?? []), ...(row.site.client_tags ?? [])];

/** The sites that the address asks for. */
export function narrowed(sites: readonly DeskSite[], view: URLSearchParams): DeskSite[] {
  const [text, tag, owner] = [view.get("text") ?? "", view.get("tag") ?? "", view.get("owner") ?? ""];
  return sites.filter(
    (row) =>
      holds(text, row.site.host, row.site.client_name) &&
      (!tag || tagsOf(row).includes(tag)) &&
      (!owner || String(row.site.owner_id ?? "") === owner),
  );
}

function SiteFilters({
  sites,
  view,
  set,
}: {
  sites: readonly DeskSite[];
  view: URLSearchParams;
  set: (name: string, value: string) => void;
}) {
  const tags = [...new Set(sites.flatMap(tagsOf))].sort();
  const owners = new Map(
    sites.flatMap((r) => (r.site.owner_id ? [[String(r.site.owner_id), r.site.owner ?? ""]] : [])),
  );
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <SearchInput
        label="Find a site or client"
        value={view.get("text") ?? ""}
        onChange={(value) => set("text", value)}
      />
      {tags.length > 0 && (
        <div className="w-36">
          <Select
            aria-label="Tag"
            value={view.get("tag") ?? ""}
            onChange={(value) => set("tag", value)}
            choices={[{ value: "", label: "every tag" }, ...tags.map((tag) => ({ value: tag, label: tag }))]}
          />
        </div>
      )}
      {owners.size > 0 && (
        <div className="w-44">
          <Select
            aria-label="In charge"
            value={view.get("owner") ?? ""}
            onChange={(value) => set("owner", value)}
            choices={[
              { value: "", label: "in anyone’s charge" },
              ...[...owners].map(([value, label]) => ({ value, label })),
            ]}
          />
        </div>
      )}
    </div>
  );
}

function SitesTable({ desk }: { desk: Desk }) {
  const [view, set] = useAddress();
  const order = NAMES.find((name) => name === view.get("order")) ?? "attention";
  const rows = narrowed(desk.sites, view).sort(ORDERS[order].by);
  const chips = NAMES.map((name) => (
    <Chip key={name} on={name === order} onClick={() => set("order", name === "attention" ? "" : name)}>
      {ORDERS[name].label}
    </Chip>
  ));
  return (
    <Card title="All sites" aside={<span className="flex gap-1.5">{chips}</span>} className="mt-3.5">
      {order === "attention" && (
        <p className="text-ink-3 mb-1 text-sm">
          A failed audit counts most, then points of health lost since the run before, critical findings and high ones.
        </p>
      )}
      {desk.sites.length > 1 && <SiteFilters sites={desk.sites} view={view} set={set} />}
      <Table
        rows={rows}
        id={(r) => r.site.id}
        name="desk"
        caption="All own sites"
        empty={
          desk.sites.length > 0 ? (
            "No site fits these filters."
          ) : (
            <>
              No sites yet. <Link to="/clients?add=site">Add your first site</Link>; an address is enough.
            </>
          )
        }
        columns={[
          { head: "Site", cell: (r) => <SiteName row={r} /> },
          { head: "Health, 0 to 100, high is good", cell: (r) => <Course health={r.site.health} brick={7} /> },
          {
            head: "Health",
            quiet: true,
            number: true,
            cell: (r) => <b className="font-semibold">{points(r.site.health)}</b>,
          },
          { head: "since last run", number: true, cell: (r) => <Delta value={r.change} /> },
          {
            head: "ten runs",
            cell: (r) => (
              <Line
                values={r.line}
                marks={besideRuns(r.remarks, r.line_days)}
                label="Health over ten runs"
                width={90}
              />
            ),
          },
          { head: "critical", number: true, cell: (r) => count(r.critical) },
          { head: "high", number: true, cell: (r) => count(r.high) },
          {
            head: "new / returned / fixed",
            number: true,
            cell: (r) => (r.new === null ? "–" : `${count(r.new)} / ${count(r.returned)} / ${count(r.fixed)}`),
          },
          { head: "Last run", cell: (r) => <LastRun row={r} /> },
          {
            head: "Next",
            cell: (r) => (
              <span className="text-ink-3 whitespace-nowrap">
                {r.next_due_at ? moment(r.next_due_at) : "not planned"}
              </span>
            ),
          },
        ]}
      />
    </Card>
  );
}

function SiteName({ row }: { row: DeskSite }) {
  return (
    <>
      <Link to={`/sites/${row.site.id}`} className="text-ink font-semibold">
        {row.site.client_name}
      </Link>
      <span className="text-ink-3 block text-sm">{row.site.host}</span>
    </>
  );
}

function LastRun({ row }: { row: DeskSite }) {
  if (row.site.running) return <span className="text-accent">{row.site.running.state} now</span>;
  const last = row.site.last_run;
  if (!last) return <span className="text-ink-3">none yet</span>;
  return last.state === "failed" ? (
    <span className="text-bad">failed {moment(last.requested_at)}</span>
  ) : (
    <span className="whitespace-nowrap">
      {moment(last.requested_at)}
      {last.partial && <span className="text-ink-3 block text-sm">{last.end_words}</span>}
    </span>
  );
}

function Delta({ value }: { value: number | null }) {
  if (value === null) return <span className="text-ink-3">–</span>;
  return <span className={value < -0.05 ? "text-bad" : value > 0.05 ? "text-good" : ""}>{signed(value)}</span>;
}
