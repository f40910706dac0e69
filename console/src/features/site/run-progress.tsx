/** How far a run has come, as it goes on. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { KEYS } from "../../api/queries/keys";
import { runs } from "../../api/queries/runs";
import type { Run } from "../../api/types";
import { count, span } from "../../lib/words";
import { Address, Card, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";

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
        void cache.invalidateQueries({ queryKey: KEYS.runs });
        void cache.invalidateQueries({ queryKey: KEYS.desk });
      }
    });
    return () => source.close();
  }, [id, cache]);
  return run;
}

export function RunProgress({ id, what = "Audit" }: { id: string; what?: string }) {
  const run = useRunEvents(id);
  const may = useMay();
  const stop = useChange(runs.stop(id));
  if (!run) return null;
  const figures = run.progress;
  return (
    <Card
      className="mb-3.5"
      title={
        <span role="status">
          {what} under way: {run.state}
        </span>
      }
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
