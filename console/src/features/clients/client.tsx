import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "react-router";
import {
  CartesianGrid,
  Line as Drawn,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { clients } from "../../api/queries/sites";
import type { ClientPage } from "../../api/types";
import { count, day, moment, plural, points } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Button, buttonClass, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Course } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { Markdown } from "../../ui/markdown";
import { useState } from "react";
import { remarkMarks } from "../../lib/remark-marks";
import { Brand } from "../reports/brand";
import { ClientSettings } from "./client-settings";
import { Tags } from "./nav";
import { SiteTrends } from "./site-trends";

export function ClientScreen() {
  const { clientId } = useParams();
  const page = useQuery(clients.one(Number(clientId)));
  return (
    <Loaded query={page} tall={12}>
      {(data) => <Content page={data} />}
    </Loaded>
  );
}

function Content({ page }: { page: ClientPage }) {
  const { client } = page;
  const may = useMay();
  const own = page.sites.filter((s) => s.kind === "own");
  const competitors = page.sites.filter((s) => s.kind === "competitor");
  return (
    <>
      <Title of={[client.name, "Clients"]} />
      <Heading over={<Link to="/clients">Clients</Link>} title={client.name}>
        <span className="text-ink-3 text-sm">
          {client.owner ? `In the charge of ${client.owner}` : "In nobody’s charge"} ·{" "}
          <Link to={`/todos?client=${client.id}`} className="underline">
            {plural(page.open_todos, "open to-do")}
          </Link>
          {page.overdue_todos > 0 && <b className="text-bad font-semibold">, {count(page.overdue_todos)} overdue</b>}
        </span>
        {may("add_site") && !client.archived_at && (
          <Link to={`/clients?add=site&client=${client.id}`} className={buttonClass()}>
            Add site
          </Link>
        )}
        <Rest page={page} />
      </Heading>
      {client.archived_at && (
        <p role="status" className="bg-clay-soft mt-3 rounded-md px-3 py-1.5">
          Archived since {day(client.archived_at)}: nothing is audited, and its sites and to-dos are on no list.
        </p>
      )}
      {client.tags.length > 0 && (
        <p className="mt-2">
          <Tags tags={client.tags} />
        </p>
      )}
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[3fr_2fr]">
        <div className="min-w-0 space-y-4">
          <Health page={page} />
          <Card title="Sites">
            <Table
              rows={own}
              id={(s) => s.id}
              caption="Sites of the client"
              empty="No site yet. Add one: a URL is enough."
              columns={[
                { head: "Site", cell: (s) => <Link to={`/sites/${s.id}`}>{s.host}</Link> },
                {
                  head: "Health",
                  cell: (s) => (
                    <span className="flex items-center gap-2 whitespace-nowrap">
                      <Course health={s.health} brick={3} height={9} /> {points(s.health)}
                    </span>
                  ),
                },
                {
                  head: "Last run",
                  cell: (s) => (s.last_run ? `${moment(s.last_run.requested_at)}, ${s.last_run.state}` : "none yet"),
                },
                {
                  head: "Next run",
                  cell: (s) =>
                    s.schedule?.paused_at ? "paused" : s.schedule ? moment(s.schedule.next_due_at) : "by hand only",
                },
                { head: "To-dos", number: true, cell: (s) => count(s.open_todos) },
              ]}
            />
          </Card>
          {may("get_trend") && own.length > 1 && <SiteTrends sites={own} />}
          {competitors.length > 0 && (
            <Card title="Competitors" aside="health by their latest benchmark">
              <Table
                rows={competitors}
                id={(s) => s.id}
                caption="Competitors"
                empty=""
                columns={[
                  { head: "Site", cell: (s) => <Link to={`/sites/${s.id}`}>{s.host}</Link> },
                  {
                    head: "Health",
                    cell: (s) => (
                      <span className="flex items-center gap-2 whitespace-nowrap">
                        <Course health={s.health} brick={3} height={9} /> {points(s.health)}
                      </span>
                    ),
                  },
                ]}
              />
            </Card>
          )}
          <Card title="Reports" aside={<Link to="/reports">all reports</Link>}>
            <Table
              rows={page.reports}
              id={(r) => r.id}
              caption="Reports of the client"
              empty="No report yet. Make one from a site that has a run."
              columns={[
                { head: "Report", cell: (r) => <Link to={`/reports/${r.id}`}>{r.title}</Link> },
                { head: "Made", cell: (r) => day(r.created_at) },
              ]}
            />
          </Card>
        </div>
        <div className="min-w-0 space-y-4">
          {client.note && (
            <Card title="Agreed with the client" aside="not shown to guests">
              <Markdown text={client.note} />
            </Card>
          )}
          <Card title="People of the client" aside={may("invite_member") && <Link to="/team">invite in Team</Link>}>
            {page.guests.length === 0 && <p className="text-ink-3">Nobody of the client signs in.</p>}
            <ul>
              {page.guests.map((guest) => (
                <li key={guest.id} className="border-line border-b py-1.5 last:border-b-0">
                  {guest.name} <span className="text-ink-3 text-sm">{guest.email}</span>
                  {!guest.active && <span className="text-ink-3 text-sm">, switched off</span>}
                </li>
              ))}
            </ul>
            {may("get_portal") && (
              <p className="mt-2">
                <Link to={`/clients/${client.id}/portal`}>See what they see</Link>
              </p>
            )}
          </Card>
          <Card title="Benchmarks">
            {page.benchmarks.length === 0 && <p className="text-ink-3">None yet.</p>}
            <ul>
              {page.benchmarks.map((b) => (
                <li key={b.id} className="border-line border-b py-1.5 last:border-b-0">
                  <Link to={`/benchmarks/${b.id}`}>{b.name}</Link>
                  <span className="text-ink-3 block text-sm">
                    {b.rank
                      ? `place ${b.rank} of ${b.competitors.length + 1} by health`
                      : b.rounds > 0
                        ? `${plural(b.rounds, "round")}, no rank by health in the latest`
                        : "no round yet"}
                  </span>
                </li>
              ))}
            </ul>
          </Card>
          <Card title="Calendar" aside="edit under Settings">
            <p>
              Due within{" "}
              {(["critical", "high", "medium", "low"] as const)
                .map((name) => `${client.targets[name] ?? "–"} (${name})`)
                .join(", ")}{" "}
              working days.
            </p>
            <p className="text-ink-2 mt-1">
              {page.next_holiday ? `Next holiday ${day(page.next_holiday)}.` : "No holiday is known."}{" "}
              {client.blackout_days.length > 0 && `No audit starts automatically on ${spans(client.blackout_days)}.`}
            </p>
          </Card>
          <Card title="Remarks" aside="numbered as in the chart">
            {page.remarks.length === 0 && <p className="text-ink-3">None yet. Add them under a site’s Trend.</p>}
            <ul>
              {inOrder(page).map((r, i) => (
                <li key={r.id} className="border-line border-b py-1.5 wrap-anywhere last:border-b-0">
                  <span className={`tabular-nums ${r.origin === "member" ? "text-bad" : "text-ink-3"}`}>{i + 1}</span>{" "}
                  <b className="font-semibold">{day(r.day)}</b> {r.text}{" "}
                  <Link to={`/sites/${r.site_id}/trend`} className="text-sm">
                    {r.host}
                  </Link>
                </li>
              ))}
            </ul>
          </Card>
          <Brand clientId={client.id} />
          {may("change_client") && <ClientSettings client={client} />}
        </div>
      </div>
    </>
  );
}

/** Days as they are read: those that follow one another as one span. */
export function spans(days: readonly string[]): string {
  const found: [string, string][] = [];
  for (const each of days) {
    const last = found.at(-1);
    if (last && Date.parse(each) - Date.parse(last[1]) === 86_400_000) last[1] = each;
    else found.push([each, each]);
  }
  return found.map(([from, to]) => (from === to ? day(from) : `${day(from)} to ${day(to)}`)).join(", ");
}

const inOrder = (page: ClientPage) => [...page.remarks].reverse();

// One hue apart from the next in lightness, and each with a stroke of its own, so that colour is not all that tells them apart.
const STROKES = [
  { stroke: "var(--accent)", strokeDasharray: "" },
  { stroke: "var(--ink-2)", strokeDasharray: "6 3" },
  { stroke: "var(--high)", strokeDasharray: "2 3" },
  { stroke: "var(--good)", strokeDasharray: "8 3 2 3" },
];

/** The health of all sites over time in one chart. */
function Health({ page }: { page: ClientPage }) {
  const lines = page.lines.filter((l) => l.points.length > 0);
  const times = [...new Set(lines.flatMap((l) => l.points.map((p) => p.at)))].sort();
  if (times.length < 2)
    return (
      <Card title="Health over time">
        <p className="text-ink-3">Two runs are needed for a line.</p>
      </Card>
    );
  const rows = times.map((at) => ({
    t: new Date(at).getTime(),
    ...Object.fromEntries(
      lines.flatMap((l) => l.points.filter((p) => p.at === at).map((p) => [l.host, p.health] as const)),
    ),
  }));
  const marks = remarkMarks(inOrder(page), []);
  return (
    <Card title="Health over time" aside="0 to 100, high is good">
      <div
        role="img"
        aria-label={`Health of ${lines.map((l) => `${l.host}, now ${points(l.points.at(-1)?.health)}`).join("; ")}`}
        className="h-60"
      >
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} margin={{ top: 18, right: 16, bottom: 4, left: 0 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="t"
              type="number"
              scale="time"
              domain={["dataMin", "dataMax"]}
              tickFormatter={(t: number) => day(new Date(t).toISOString())}
              stroke="var(--ink-3)"
              fontSize={12}
            />
            <YAxis domain={[0, 100]} stroke="var(--ink-3)" fontSize={12} width={36} />
            <Tooltip
              contentStyle={{ background: "var(--surface)", borderColor: "var(--line-strong)" }}
              labelFormatter={(t) => moment(new Date(Number(t)).toISOString())}
              formatter={(v) => points(Number(v))}
            />
            {marks.map((m) => (
              <ReferenceLine
                key={m.day}
                x={m.t}
                ifOverflow="hidden"
                stroke={m.byPeople ? "var(--bad)" : "var(--ink-3)"}
                strokeDasharray={m.byPeople ? "3 3" : "1 4"}
                label={{ value: m.numbers.join(", "), position: "top", fill: "var(--ink-3)", fontSize: 12 }}
              />
            ))}
            {lines.map((l, i) => (
              <Drawn
                key={l.site_id}
                dataKey={l.host}
                {...STROKES[i % STROKES.length]}
                strokeWidth={2}
                dot={{ r: 2.5, strokeDasharray: "" }}
                connectNulls={lines.length > 1}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
      {lines.length > 1 && (
        <p className="text-ink-2 mt-1 flex flex-wrap gap-x-4 text-sm">
          {lines.map((l, i) => (
            <span key={l.site_id} className="inline-flex items-center gap-1.5">
              <svg width={26} height={8} aria-hidden="true">
                <line x1={0} x2={26} y1={4} y2={4} strokeWidth={2} {...STROKES[i % STROKES.length]} />
              </svg>
              {l.host}
            </span>
          ))}
        </p>
      )}
    </Card>
  );
}

/** Archive, bring back, remove. */
function Rest({ page }: { page: ClientPage }) {
  const { client } = page;
  const may = useMay();
  const say = useSay();
  const navigate = useNavigate();
  const change = useChange(clients.change(client.id));
  const remove = useChange(clients.remove(client.id));
  const [asking, setAsking] = useState(false);
  if (!may("change_client")) return null;
  const archived = Boolean(client.archived_at);
  const turn = (to: boolean) =>
    change.mutate(
      { archived: to },
      {
        onSuccess: () =>
          to
            ? say(`${client.name} is archived.`, () => change.mutate({ archived: false }))
            : say(`${client.name} is back; its schedules go on from now.`),
      },
    );
  return (
    <>
      <Button disabled={change.isPending} onClick={() => turn(!archived)}>
        {archived ? "Restore" : "Archive"}
      </Button>
      {archived && may("remove_client") && <Button onClick={() => setAsking(true)}>Remove…</Button>}
      {change.error && <Trouble error={change.error} />}
      <Dialog
        open={asking}
        onOpenChange={setAsking}
        title={`Remove ${client.name}`}
        description={`${plural(page.sites.length, "site")} with all runs, to-dos and reports are removed with it. This cannot be undone.`}
      >
        {remove.error && <Trouble error={remove.error} />}
        <div className="flex gap-3">
          <Button
            main
            disabled={remove.isPending}
            onClick={() =>
              remove.mutate(undefined, {
                onSuccess: () => {
                  say(`${client.name} is removed.`);
                  void navigate("/clients");
                },
              })
            }
          >
            Remove for good
          </Button>
          <LinkButton onClick={() => setAsking(false)}>keep it</LinkButton>
        </div>
      </Dialog>
    </>
  );
}
