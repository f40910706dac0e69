import { useQuery } from "@tanstack/react-query";
import { Link, Navigate, NavLink, Outlet, useLocation, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { runs } from "../../api/queries/runs";
import { sites } from "../../api/queries/sites";
import { session } from "../../api/queries/team";
import type { Site } from "../../api/types";
import { count, duration, moment } from "../../lib/words";
import { Button, buttonClass, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Stale, Trouble } from "../../ui/state";
import { EarlierNotice, nameOf, RunChoice, useChosenRun } from "./chosen-run";
import { EarlierRun } from "./context";
import { SITE_PLACES } from "./places";
import { RunProgress } from "./run-progress";

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
      {site.running && <RunProgress id={site.running.id} />}
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
