import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { service } from "../service";
import type {
  Appearance,
  BranchKind,
  FixesBody,
  InventoryKind,
  Change,
  CheckOutcome,
  ComparedList,
  PartKind,
  PlanValues,
  Site,
  Weight,
} from "../types";
import { KEYS } from "./keys";

const PART = 200;
/** As many as the service gives at once: runs of some decades. */
const RUNS = 1000;
const of = (run_id: string) => ({ params: { path: { run_id } } });

export const runs = {
  one: (id: string | null | undefined) =>
    queryOptions({
      queryKey: [...KEYS.runs, id],
      queryFn: () => service.GET("/api/v1/runs/{run_id}", of(id ?? "")),
      enabled: !!id,
    }),
  /** The latest finished run of a site. Its key moves on with the runs of the site, so that it is read anew after each. */
  latest: (site: Site) =>
    queryOptions({
      queryKey: [...KEYS.runs, "latest", site.id, site.runs, site.running?.id ?? ""],
      queryFn: () => service.GET("/api/v1/runs/{run_id}", of(`latest-${site.id}`)),
      enabled: (site.runs ?? 0) > 0,
      placeholderData: (before) => (before?.site_id === site.id ? before : undefined),
    }),
  /** Those of a site that are compared: its audits, a competitor's benchmark runs, and what was examined again. */
  finished: (site: Site) =>
    queryOptions({
      queryKey: [...KEYS.runs, "list", site.id],
      queryFn: () => service.GET("/api/v1/runs", { params: { query: { site: site.id, limit: RUNS } } }),
      select: (found) =>
        found.items.filter(
          (run) => typeof run.findings === "number" && !(site.kind === "own" && run.purpose === "benchmark"),
        ),
    }),
  again: (id: string) => ({
    send: (body: { profile?: string | null; values?: PlanValues }) =>
      service.POST("/api/v1/runs/{run_id}/examine", { ...of(id), body: { values: {}, ...body } }),
    touches: [KEYS.runs],
  }),
  start: (siteId: number) => ({
    send: () => service.POST("/api/v1/sites/{site_id}/runs", { params: { path: { site_id: siteId } } }),
    touches: [[...KEYS.sites, siteId], KEYS.desk, KEYS.runs],
  }),
  /** What a site was served with other user agents, the latest first. */
  userAgents: (site: Site) =>
    queryOptions({
      queryKey: [...KEYS.runs, "user agents", site.id],
      queryFn: () =>
        service.GET("/api/v1/runs", { params: { query: { site: site.id, purpose: "user-agent", limit: 50 } } }),
    }),
  fetchAs: (site_id: number) => ({
    send: (appearance: Appearance) =>
      service.POST("/api/v1/sites/{site_id}/user-agents/{appearance}", { params: { path: { site_id, appearance } } }),
    touches: [KEYS.runs],
  }),
  stop: (id: string) => ({
    send: () => service.POST("/api/v1/runs/{run_id}/stop", of(id)),
    touches: [KEYS.sites, KEYS.desk],
  }),
  resume: (id: string) => ({
    send: () => service.POST("/api/v1/runs/{run_id}/resume", of(id)),
    touches: [KEYS.sites, KEYS.desk, KEYS.runs],
  }),
};

const ROWS = 100;

/** Two runs side by side. What is chosen narrows the findings down; everything else of the comparison stays the same. */
export const comparisons = {
  whole: (base: string, head: string) =>
    queryOptions({
      queryKey: [...KEYS.comparisons, base, head],
      queryFn: () => service.GET("/api/v1/comparisons", { params: { query: { base, head, limit: 1 } } }),
    }),
  findings: (base: string, head: string, chosen: Chosen) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.comparisons, base, head, "findings", chosen],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/comparisons", {
          params: { query: { base, head, ...chosen, limit: ROWS, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => last.after ?? undefined,
    }),
  parts: (base: string, head: string, by: PartKind) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.comparisons, base, head, "parts", by],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/comparisons/parts", {
          params: { query: { base, head, by, limit: ROWS, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
  changed: (base: string, head: string, group: number) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.comparisons, base, head, "changes", group],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/comparisons/changes", {
          params: { query: { base, head, group, limit: ROWS, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
  urls: (base: string, head: string, which: ComparedList) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.comparisons, base, head, "urls", which],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/comparisons/urls", {
          params: { query: { base, head, which, limit: ROWS, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
  columns: (ids: readonly string[]) =>
    queryOptions({
      queryKey: [...KEYS.comparisons, "columns", ...ids],
      queryFn: () => service.GET("/api/v1/comparisons/columns", { params: { query: { runs: ids.join(",") } } }),
      enabled: ids.length > 0,
    }),
};

/** Which findings of a comparison; what is left out does not narrow. */
export type Chosen = { change?: Change; check?: string; event?: number; part?: number };

export const findings = {
  /** Checks that fail, in the order of work; `weight` is what that order goes by. */
  checks: (runId: string, weight: Weight = "gain") =>
    queryOptions({
      queryKey: [...KEYS.findings, runId, "checks", ...(weight === "gain" ? [] : [{ weight }])],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/checks", { params: { path: { run_id: runId }, query: { weight } } }),
    }),
  /** Checks that have no finding, for one of the reasons why. */
  quiet: (runId: string, outcome: CheckOutcome) =>
    queryOptions({
      queryKey: [...KEYS.findings, runId, "quiet", outcome],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/checks", { params: { path: { run_id: runId }, query: { outcome } } }),
    }),
  check: (runId: string, checkId: string) =>
    queryOptions({
      queryKey: [...KEYS.findings, runId, "checks", checkId],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/checks/{check_id}", {
          params: { path: { run_id: runId, check_id: checkId } },
        }),
    }),
  causes: (runId: string, weight: Weight = "gain") =>
    queryOptions({
      queryKey: [...KEYS.findings, runId, "causes", weight],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/causes", {
          params: { path: { run_id: runId }, query: { limit: 500, weight } },
        }),
    }),
  one: (runId: string, fingerprint: string) =>
    queryOptions({
      queryKey: [...KEYS.findings, runId, "one", fingerprint],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/findings/{fingerprint}", {
          params: { path: { run_id: runId, fingerprint } },
        }),
      staleTime: Infinity,
    }),
  history: (site_id: number, fingerprint: string) =>
    queryOptions({
      queryKey: [...KEYS.findings, "history", site_id, fingerprint],
      queryFn: () =>
        service.GET("/api/v1/sites/{site_id}/history/findings/{fingerprint}", {
          params: { path: { site_id, fingerprint } },
        }),
    }),
  places: (runId: string, check: string, cause: number | undefined) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.findings, runId, "places", check, cause],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/runs/{run_id}/findings", {
          params: { path: { run_id: runId }, query: { check, cause, limit: PART, after: pageParam } },
        }),
      initialPageParam: undefined as number | undefined,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
};

/** One page of a run. */
const about = (run_id: string, url: string) => ({ params: { path: { run_id }, query: { url } } });

export const pages = {
  history: (site_id: number, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, "history", site_id, url],
      queryFn: () =>
        service.GET("/api/v1/sites/{site_id}/history/page", { params: { path: { site_id }, query: { url } } }),
    }),
  one: (runId: string, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, runId, "page", url],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/page", { params: { path: { run_id: runId }, query: { url } } }),
    }),
  terms: (run_id: string, url: string, focus: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "terms", url, focus],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/page/terms", { params: { path: { run_id }, query: { url, focus } } }),
    }),
  data: (run_id: string, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "data", url],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/page/data", about(run_id, url)),
    }),
  languages: (run_id: string, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "languages", url],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/page/languages", about(run_id, url)),
    }),
  way: (run_id: string, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "way", url],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/page/way", about(run_id, url)),
    }),
  source: (run_id: string, url: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "source", url],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/page/source", about(run_id, url)),
    }),
  snippet: (query: { title: string; description: string; url: string }) =>
    queryOptions({
      queryKey: [...KEYS.pages, "snippet", query],
      queryFn: () => service.GET("/api/v1/snippet", { params: { query } }),
      placeholderData: (before) => before,
      staleTime: Infinity,
    }),
  lookAtSeveral: (site_id: number) => ({
    send: (urls: string[]) =>
      service.POST("/api/v1/sites/{site_id}/looks", { params: { path: { site_id } }, body: { urls } }),
    touches: [],
  }),
};

export const structures = {
  branches: (run_id: string, by: BranchKind, below: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "structure", by, below],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/structure", { params: { path: { run_id }, query: { by, below } } }),
      placeholderData: (before) => (before?.by === by ? before : undefined),
    }),
  links: (run_id: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "template links"],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/structure/links", of(run_id)),
    }),
  files: (run_id: string) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "site files"],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/site-files", of(run_id)),
    }),
  fixes: (run_id: string, body: FixesBody) =>
    queryOptions({
      queryKey: [...KEYS.findings, run_id, "fixes", body],
      queryFn: () => service.POST("/api/v1/runs/{run_id}/fixes", { ...of(run_id), body }),
      placeholderData: (before) => before,
    }),
};

/** Which addresses of a run are shown, and what of them. */
export type Listed = { of: InventoryKind; where: string; columns: string; sort: string };

export const inventory = {
  columns: (of: InventoryKind) =>
    queryOptions({
      queryKey: [...KEYS.pages, "columns", of],
      queryFn: () => service.GET("/api/v1/inventory-columns", { params: { query: { of } } }),
      staleTime: Infinity,
    }),
  views: () =>
    queryOptions({
      queryKey: [...KEYS.pages, "views"],
      queryFn: () => service.GET("/api/v1/inventory-views"),
      staleTime: Infinity,
    }),
  list: (run_id: string, listed: Listed) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.pages, run_id, "inventory", listed],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/runs/{run_id}/inventory", {
          params: { path: { run_id }, query: { ...listed, limit: PART, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
  figures: (run_id: string, { of, where, columns, by }: Omit<Listed, "sort"> & { by: string }) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "figures", of, where, columns, by],
      queryFn: () =>
        service.GET("/api/v1/runs/{run_id}/inventory/figures", {
          params: { path: { run_id }, query: { of, where, columns, by } },
        }),
    }),
};
