/** Lists read themselves again when somebody changes something: the service says what has changed, and what shows it is asked for once more. */
import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { KEYS } from "./queries/keys";
import type { Noun } from "./types";

const RESULTS = [KEYS.runs, KEYS.findings, KEYS.pages, KEYS.comparisons, KEYS.trends];

/** What is read again when records of a noun have changed. */
export const SHOWN_BY: Record<Noun, readonly QueryKey[]> = {
  clients: [KEYS.clients, KEYS.sites, KEYS.desk, KEYS.week],
  sites: [KEYS.sites, KEYS.clients, KEYS.desk, KEYS.plans, KEYS.access, KEYS.week],
  runs: [...RESULTS, KEYS.benchmarks, KEYS.sites, KEYS.clients, KEYS.desk, KEYS.files, KEYS.week],
  todos: [KEYS.todos, KEYS.findings, KEYS.pages, KEYS.sites, KEYS.clients, KEYS.desk],
  alerts: [KEYS.desk],
  waivers: [KEYS.waivers, KEYS.desk],
  remarks: [KEYS.trends],
  metrics: [KEYS.figures, KEYS.benchmarks, KEYS.desk, KEYS.trends],
  sheets: [KEYS.sheets],
  presets: [KEYS.presets],
  profiles: [KEYS.profiles, KEYS.plans],
  benchmarks: [KEYS.benchmarks],
  reports: [KEYS.reports],
  members: [KEYS.members, KEYS.session],
  mails: [KEYS.mails],
  webhooks: [KEYS.webhooks],
  views: [KEYS.views],
};

// While a history is audited something changes all the time; screens are read again no more often than this.
export const AT_MOST_EVERY_MS = 2_000;
const TRIED_AGAIN_AFTER_MS = 30_000;

/**
 * Listens while the window is looked at: a browser keeps six connections to a service at most, and every window would hold one. What changed
 * while it was hidden is made up for when it is shown again.
 */
export function useWatch(wanted: boolean) {
  const cache = useQueryClient();
  useEffect(() => {
    if (!wanted) return;
    let source: EventSource | null = null;
    let again = 0;
    let timer = 0;
    let readAt = 0;
    let lost = false;
    const waiting = new Set<Noun>();

    const read = () => {
      timer = 0;
      readAt = Date.now();
      const keys = new Set([...waiting].flatMap((noun) => SHOWN_BY[noun] ?? []));
      waiting.clear();
      for (const queryKey of keys) void cache.invalidateQueries({ queryKey });
    };
    const open = () => {
      source = new EventSource("/api/v1/changes");
      source.addEventListener("changes", (event: MessageEvent<string>) => {
        for (const noun of (JSON.parse(event.data) as { nouns: Noun[] }).nouns) waiting.add(noun);
        timer ||= window.setTimeout(read, Math.max(0, readAt + AT_MOST_EVERY_MS - Date.now()));
      });
      source.addEventListener("open", () => {
        lost = false;
      });
      source.addEventListener("error", () => {
        // Whether the service still answers is seen when what is shown is read again.
        if (!lost) void cache.invalidateQueries();
        lost = true;
        // The browser tries again by itself but for what was refused.
        if (source?.readyState !== EventSource.CLOSED) return;
        close();
        again = window.setTimeout(look, TRIED_AGAIN_AFTER_MS);
      });
    };
    const close = () => {
      source?.close();
      source = null;
      window.clearTimeout(again);
    };
    let hidden = document.visibilityState === "hidden";
    const look = () => {
      if (document.visibilityState === "hidden") {
        hidden = true;
        close();
      } else if (source === null) {
        if (hidden) void cache.invalidateQueries();
        hidden = false;
        open();
      }
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      window.clearTimeout(timer);
      close();
    };
  }, [cache, wanted]);
}
