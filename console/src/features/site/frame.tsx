import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, useMatch, useParams } from "react-router";
import type { ProblemError, Run, RunBrief, Site } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { count, duration, moment, span } from "../../lib/words";
import { Address, Button, buttonClass, Card, Heading, LinkButton, Loaded, Trouble } from "../../ui/parts";
import { useQueryClient } from "@tanstack/react-query";

const PLACES = [
  ["", "Summary"],
  ["findings", "Findings"],
  ["inventory", "Inventory"],
  ["changes", "Changes"],
  ["trend", "Trend"],
  ["plan", "Plan"],
] as const;

export function SiteFrame() {
  const { siteId } = useParams();
  const site = useRead<Site>(`/sites/${siteId}`, 3000);
  return (
    <Loaded query={site} tall={10}>
      {(data) => <Framed site={data} />}
    </Loaded>
  );
}

function Framed({ site }: { site: Site }) {
  const hasRun = site.runs > 0;
  const latest = useRead<Run>(hasRun ? `/runs/latest-${site.id}` : null);
  const cache = useQueryClient();
  useEffect(() => {
    if (!site.running)
      void cache.invalidateQueries({ predicate: (q) => String(q.queryKey[0]).includes(`latest-${site.id}`) });
  }, [site.running?.id, site.runs, site.id, cache]); // eslint-disable-line
  const start = useChange<Record<string, never>, RunBrief>("POST", `/sites/${site.id}/runs`);
  const goOn = useChange<Record<string, never>, RunBrief>("POST", `/runs/${site.last_run?.id}/resume`);
  const check = useMatch("/sites/:siteId/checks/:checkId");
  const run = latest.data ?? null;
  return (
    <>
      <Heading
        over={
          <>
            <Link to="/clients">{site.client_name}</Link>
            {site.kind === "competitor" && " · competitor"}
          </>
        }
        title={site.host}
      >
        {run && (
          <span className="text-ink-3 text-sm">
            Run of {moment(run.requested_at)} · {count(run.pages)} pages scored ·{" "}
            {duration(run.started_at, run.finished_at)} · {run.end_words}
          </span>
        )}
        {site.kind === "own" && run && (
          <Link to={`/reports?site=${site.id}`} className={buttonClass()}>
            Report
          </Link>
        )}
        <Button main disabled={!!site.running || start.isPending} onClick={() => start.mutate({})}>
          {site.running ? "Running" : "Run now"}
        </Button>
      </Heading>
      {(start.error ?? goOn.error) && (
        <div className="mt-2">
          <Trouble error={(start.error ?? goOn.error) as ProblemError} />
        </div>
      )}
      {site.last_run?.state === "failed" && (
        <p role="alert" className="bg-clay-soft mt-2 rounded-md px-3 py-1.5">
          The run of {moment(site.last_run.requested_at)} failed: {site.last_run.reason}{" "}
          {site.can_go_on && (
            <LinkButton disabled={goOn.isPending} onClick={() => goOn.mutate({})}>
              Let it go on
            </LinkButton>
          )}
        </p>
      )}
      <nav aria-label="Places of the site" className="border-line mt-3 mb-3.5 flex gap-5 overflow-x-auto border-b">
        {PLACES.map(([to, label]) => (
          <NavLink
            key={to}
            to={`/sites/${site.id}${to ? `/${to}` : ""}`}
            end={to === ""}
            className={({ isActive }) =>
              `py-1.5 whitespace-nowrap hover:no-underline ${isActive || (check && to === "findings") ? "text-ink border-accent border-b-2 font-semibold" : "text-ink-2"}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      {site.running && <Progress id={site.running.id} />}
      {hasRun && !run && !latest.error ? (
        <Loaded query={latest}>{() => null}</Loaded>
      ) : latest.error ? (
        <Trouble error={latest.error} again={() => latest.refetch()} />
      ) : (
        <Outlet context={{ site, run }} />
      )}
    </>
  );
}

type Figures = {
  pages_done?: number;
  queued?: number;
  known?: number;
  per_s?: number;
  elapsed_s?: number;
  left_s?: number | null;
  slower?: number;
  answers?: Record<string, number>;
  recent?: [string, number | null, string][];
};

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
        void cache.invalidateQueries({ predicate: (q) => String(q.queryKey[0]).startsWith("/sites") });
      }
    });
    return () => source.close();
  }, [id, cache]);
  return run;
}

function Progress({ id }: { id: string }) {
  const run = useRunEvents(id);
  const stop = useChange<Record<string, never>>("POST", `/runs/${id}/stop`);
  if (!run) return null;
  const figures = (run.progress ?? {}) as Figures;
  return (
    <Card
      className="mb-3.5"
      title={<span role="status">Audit under way: {run.state}</span>}
      aside={
        stop.isSuccess ? (
          "It stops; what is there will be examined."
        ) : (
          <LinkButton disabled={stop.isPending} onClick={() => stop.mutate({})}>
            Stop; examine what is there
          </LinkButton>
        )
      }
    >
      {!run.progress && <p>robots.txt and sitemaps are read first.</p>}
      <p className={run.progress ? "" : "hidden"}>
        {count(figures.pages_done ?? 0)} pages fetched · {count(figures.queued ?? 0)} waiting ·{" "}
        {count(figures.known ?? 0)} addresses known · {figures.per_s ?? 0} pages a second
        {figures.left_s ? ` · ${span(figures.left_s)} left` : ""}
        {Object.entries(figures.answers ?? {})
          .sort()
          .map(([kind, n]) => ` · ${kind} ${count(n)}`)}
        {(figures.slower ?? 1) > 1 && ` · ${figures.slower} times slower than planned, because the host struggles`}
      </p>
      <ul className="text-ink-3 mt-1 text-sm">
        {(figures.recent ?? []).slice(-4).map(([url, status, failure]) => (
          <li key={url}>
            {status ?? failure} <Address text={url} chars={90} />
          </li>
        ))}
      </ul>
      {stop.error && <Trouble error={stop.error} />}
    </Card>
  );
}
