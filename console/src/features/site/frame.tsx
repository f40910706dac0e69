import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Navigate, NavLink, Outlet, useLocation, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { KEYS } from "../../api/queries/keys";
import { runs } from "../../api/queries/runs";
import { sites } from "../../api/queries/sites";
import { session } from "../../api/queries/team";
import type { Run, Site } from "../../api/types";
import { count, duration, moment, span } from "../../lib/words";
import { Address, Button, buttonClass, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Stale, Trouble } from "../../ui/state";
import { EarlierNotice, nameOf, RunChoice, useChosenRun } from "./chosen-run";
import { EarlierRun } from "./context";
import { SITE_PLACES } from "./places";

export function SiteFrame() {
  const { siteId } = useParams();
  const site = useQuery(sites.one(Number(siteId)));
  return (
    <Loaded query={site} tall={10}>
      {(data) => <Framed site={data} />}
    </Loaded>
  );
}

function Framed({ site }: { site: Site }) {
  const may = useMay();
  const hasRun = site.runs > 0 && may("get_run");
  const isGuest = useQuery(session.me()).data?.role === "guest";
  const chosen = useChosenRun(site);
  const latest = useQuery({ ...runs.latest(site), enabled: hasRun });
  const earlier = useQuery({ ...runs.one(nameOf(site.id, chosen)), enabled: hasRun && chosen !== "" });
  const places = SITE_PLACES.filter(([, , operation]) => may(operation));
  const start = useChange(runs.start(site.id));
  const goOn = useChange(runs.resume(site.last_run?.id ?? ""));
  const { pathname } = useLocation();
  const within = WITHIN[pathname.split("/")[3] ?? ""];
  const foreign = earlier.data !== undefined && earlier.data.site_id !== site.id;
  const isEarlier = chosen !== "" && earlier.data !== undefined && !foreign && earlier.data.id !== latest.data?.id;
  const shown = chosen !== "" && !foreign ? earlier : latest;
  const run = shown.data ?? null;
  const error = start.error ?? goOn.error;
  return (
    <>
      <Title of={[placeName(pathname), site.host]} />
      <Heading
        over={
          <>
            <Link to={`/clients/${site.client_id}`}>{site.client_name}</Link>
            {site.kind === "competitor" && " · competitor"}
          </>
        }
        title={site.host}
      >
        {run && (
          <span className="text-ink-3 flex flex-wrap items-center gap-2 text-sm">
            {may("list_runs") ? (
              <RunChoice site={site} run={run} chosen={chosen} />
            ) : (
              `Run of ${moment(run.requested_at)}`
            )}
            <span>
              {count(run.pages)} pages scored · {duration(run.started_at, run.finished_at)} · {run.end_words}
            </span>
          </span>
        )}
        {site.kind === "own" && run && may("add_report") && (
          <Link to={`/reports?site=${site.id}`} className={buttonClass()}>
            Report
          </Link>
        )}
        {may("start_run") && (
          <Button main disabled={!!site.running || start.isPending} onClick={() => start.mutate()}>
            {site.running ? "Running" : "Run audit"}
          </Button>
        )}
      </Heading>
      {error && (
        <div className="mt-2">
          <Trouble error={error} />
        </div>
      )}
      {site.last_run?.state === "failed" && (
        <p role="alert" className="bg-clay-soft mt-2 rounded-md px-3 py-1.5">
          The run of {moment(site.last_run.requested_at)} failed: {site.last_run.reason}{" "}
          {site.can_go_on && may("resume_run") && (
            <LinkButton disabled={goOn.isPending} onClick={() => goOn.mutate()}>
              Resume run
            </LinkButton>
          )}
        </p>
      )}
      <nav aria-label="Places of the site" className="border-line mt-3 mb-3.5 flex gap-5 overflow-x-auto border-b">
        {places.map(([to, label]) => (
          <NavLink
            key={to}
            to={`/sites/${site.id}${to ? `/${to}` : ""}`}
            end={to === ""}
            className={({ isActive }) =>
              `py-1.5 whitespace-nowrap hover:no-underline ${isActive || (within === to && to !== "") ? "text-ink border-accent border-b-2 font-semibold" : "text-ink-2"}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      {site.running && <Progress id={site.running.id} />}
      {hasRun && !run ? (
        <Loaded query={shown}>{() => null}</Loaded>
      ) : (
        <>
          {latest.error && (
            <Stale error={latest.error} since={latest.dataUpdatedAt} again={() => void latest.refetch()} />
          )}
          {isGuest && !pathname.endsWith("/trend") ? (
            <Navigate to={`/sites/${site.id}/trend`} replace />
          ) : (
            <EarlierRun value={isEarlier}>
              {isEarlier && run && <EarlierNotice site={site} run={run} />}
              <Outlet context={{ site, run }} />
            </EarlierRun>
          )}
        </>
      )}
    </>
  );
}

/** Screens that lie below a place of the site. */
const WITHIN: Record<string, string> = { checks: "findings", fixes: "findings", page: "inventory" };

/** The name of the place of a site that is shown. What lies below a place, such as a check, says its own. */
function placeName(pathname: string): string | undefined {
  const part = pathname.split("/")[3] ?? "";
  return SITE_PLACES.find(([to]) => to === part)?.[1];
}

/** A run as the service tells it by server-sent events; the browser connects anew by itself. */
function useRunEvents(id: string): Run | null {
  const [run, setRun] = useState<Run | null>(null);
  const cache = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/v1/runs/${id}/events`);
    source.addEventListener("run", (event) => {
      const told = JSON.parse((event as MessageEvent<string>).data) as Run;
      setRun(told);
      if (told.finished_at) {
        source.close();
        void cache.invalidateQueries({ queryKey: KEYS.sites });
        void cache.invalidateQueries({ queryKey: KEYS.desk });
      }
    });
    return () => source.close();
  }, [id, cache]);
  return run;
}

function Progress({ id }: { id: string }) {
  const run = useRunEvents(id);
  const may = useMay();
  const stop = useChange(runs.stop(id));
  if (!run) return null;
  const figures = run.progress;
  return (
    <Card
      className="mb-3.5"
      title={<span role="status">Audit under way: {run.state}</span>}
      aside={
        stop.isSuccess ? (
          "It stops; what is there will be examined."
        ) : may("stop_run") ? (
          <LinkButton disabled={stop.isPending} onClick={() => stop.mutate()}>
            Stop; examine what is there
          </LinkButton>
        ) : undefined
      }
    >
      {figures ? (
        <p>
          {count(figures.pages_done)} pages fetched · {count(figures.queued)} waiting · {count(figures.known)} addresses
          known · {figures.per_s} pages a second
          {figures.pages_done > 0 &&
            (typeof figures.left_s === "number" ? ` · ${span(figures.left_s)} left` : " · time left unknown")}
          {Object.entries(figures.answers ?? {})
            .sort()
            .map(([kind, n]) => ` · ${kind} ${count(n)}`)}
          {figures.slower > 1 && ` · ${figures.slower} times slower than planned, because the host struggles`}
        </p>
      ) : (
        <p>robots.txt and sitemaps are read first.</p>
      )}
      <ul className="text-ink-3 mt-1 text-sm">
        {(figures?.recent ?? []).slice(-4).map(([url, status, failure]) => (
          <li key={url}>
            {status ?? failure} <Address text={url} chars={90} />
          </li>
        ))}
      </ul>
      {stop.error && <Trouble error={stop.error} />}
    </Card>
  );
}
