import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { clients, week } from "../../api/queries/sites";
import type { Week, WeekRun } from "../../api/types";
import { isoDay, isDay } from "../../lib/dates";
import { useAddress } from "../../lib/address";
import { count, day, plural, points, span } from "../../lib/words";
import { Select } from "../../ui/controls";
import { Button } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { ClientsHead } from "./nav";

/** Monday of the week that a day is in, at noon, by the viewer's calendar. */
export function mondayOf(at: Date): Date {
  const noon = new Date(at.getFullYear(), at.getMonth(), at.getDate(), 12);
  noon.setDate(noon.getDate() - ((noon.getDay() + 6) % 7));
  return noon;
}
const plus = (at: Date, days: number) => new Date(at.getFullYear(), at.getMonth(), at.getDate() + days, 12);

/** The runs of each of seven days of the viewer; the service counts days by UTC, so a day more was asked for on either side. */
export function byDay(found: Week, monday: Date): { day: string; runs: WeekRun[] }[] {
  return Array.from({ length: 7 }, (_, i) => {
    const name = isoDay(plus(monday, i));
    return { day: name, runs: found.runs.filter((run) => isoDay(new Date(run.at)) === name) };
  });
}

export function WeekScreen() {
  const [view, set] = useAddress();
  const client = view.get("client") ?? "";
  const asked = isDay(view.get("from") ?? "") ? new Date(`${view.get("from")}T12:00:00`) : new Date();
  const monday = mondayOf(asked);
  const found = useQuery(week(isoDay(plus(monday, -1)), 9, client ? Number(client) : undefined));
  const firms = useQuery(clients.all()).data ?? [];
  const go = (days: number) => set("from", isoDay(plus(monday, days)));
  return (
    <>
      <ClientsHead title="Week of runs" />
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Button onClick={() => go(-7)} aria-label="The week before">
          ‹
        </Button>
        <Button onClick={() => set("from", "")}>This week</Button>
        <Button onClick={() => go(7)} aria-label="The week after">
          ›
        </Button>
        <b className="mx-1 font-semibold">
          {day(isoDay(monday))} to {day(isoDay(plus(monday, 6)))}
        </b>
        <div className="w-48">
          <Select
            aria-label="Client"
            value={client}
            onChange={(value) => set("client", value)}
            choices={[
              { value: "", label: "all clients" },
              ...firms.map((c) => ({ value: String(c.id), label: c.name })),
            ]}
          />
        </div>
      </div>
      <Loaded query={found} tall={10}>
        {(data) => <Days found={data} monday={monday} />}
      </Loaded>
    </>
  );
}

function Days({ found, monday }: { found: Week; monday: Date }) {
  const today = isoDay(new Date());
  const days = byDay(found, monday);
  const all = days.flatMap((d) => d.runs);
  const [began, paused] = [all.filter((run) => run.run_id !== null), all.filter((run) => run.paused)];
  const planned = all.length - began.length - paused.length;
  return (
    <>
      <p className="text-ink-2 mb-2">
        {plural(began.length, "run")} began, {plural(planned, "more run")} planned
        {paused.length > 0 && `, ${count(paused.length)} on paused schedules`}. Times are in your zone.
      </p>
      <div className="grid gap-2 md:grid-cols-4 xl:grid-cols-7">
        {days.map(({ day: name, runs }) => (
          <section
            key={name}
            aria-label={day(name)}
            className={`bg-surface min-w-0 rounded-md border px-2 py-2 ${name === today ? "border-accent" : "border-line"}`}
          >
            <h2 className="mb-1.5 flex justify-between text-sm font-semibold">
              <span>{day(name)}</span>
              <span className="text-ink-3 font-normal">{runs.length > 0 && runs.length}</span>
            </h2>
            {found.blackout
              .filter((b) => b.day === name)
              .map((b) => (
                <p key={b.client_name} className="bg-clay-soft mb-1 rounded-sm px-1.5 py-0.5 text-sm">
                  blackout: {b.client_name}
                </p>
              ))}
            <ul className="max-h-[60vh] space-y-1 overflow-y-auto text-sm">
              {runs.map((run) => (
                <Entry key={`${run.site_id} ${run.at}`} run={run} />
              ))}
              {runs.length === 0 && <li className="text-ink-3">no runs</li>}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}

function Entry({ run }: { run: WeekRun }) {
  const time = new Date(run.at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  const took = typeof run.minutes === "number" ? span(run.minutes * 60) : "";
  return (
    <li
      className={`border-line border-l-2 pl-1.5 ${run.run_id === null ? "border-dashed" : run.state === "failed" ? "!border-bad" : "!border-accent"}`}
    >
      <span className="tabular-nums">{time}</span>{" "}
      <Link to={`/sites/${run.site_id}`} className="wrap-anywhere">
        {run.host}
      </Link>
      <span className="text-ink-3 block">
        {stateOf(run)}
        {took && run.state !== "failed" && `, ${took}`}
      </span>
    </li>
  );
}

/** What became of a run, or is to become of it. */
export function stateOf(run: WeekRun): string {
  if (run.paused) return "paused";
  if (run.run_id === null) return run.retry ? "second attempt" : "planned";
  if (run.state === "failed") return `failed: ${run.reason}`;
  const kind = run.benchmark ? "benchmark" : "";
  const health = typeof run.health === "number" ? `health ${points(run.health)}` : "";
  const state = run.state === "done" && (health || kind) ? "" : run.state;
  return [kind, state, health].filter(Boolean).join(", ");
}
