import { queryOptions } from "@tanstack/react-query";
import { ifMatch, service } from "../service";
import type {
  AccessBody,
  ClientChange,
  NewClient,
  PlanValues,
  PresetBody,
  PresetChange,
  Profile,
  ProfileChange,
  ScheduleBody,
  SiteChange,
  SiteKind,
  SitesPick,
  WaiverBody,
  WaiverScope,
  SitemapOptions,
} from "../types";
import { KEYS } from "./keys";

const WHILE_IT_IS_LOOKED_AT_MS = 20_000;
const of = (site_id: number) => ({ params: { path: { site_id } } });

const CLIENT_TOUCHES = [KEYS.clients, KEYS.sites, KEYS.desk, KEYS.todos, KEYS.benchmarks, KEYS.week];
const MANY_TOUCH = [KEYS.sites, KEYS.clients, KEYS.plans, KEYS.desk, KEYS.week];

export const clients = {
  all: (archived = false) =>
    queryOptions({
      queryKey: archived ? [...KEYS.clients, "archived"] : KEYS.clients,
      queryFn: () => service.GET("/api/v1/clients", { params: { query: archived ? { archived } : {} } }),
    }),
  one: (client_id: number) =>
    queryOptions({
      queryKey: [...KEYS.clients, client_id],
      queryFn: () => service.GET("/api/v1/clients/{client_id}", { params: { path: { client_id } } }),
    }),
  change: (client_id: number) => ({
    send: (body: ClientChange) =>
      service.PATCH("/api/v1/clients/{client_id}", { params: { path: { client_id } }, body }),
    touches: CLIENT_TOUCHES,
  }),
  remove: (client_id: number) => ({
    send: () => service.DELETE("/api/v1/clients/{client_id}", { params: { path: { client_id } } }),
    touches: CLIENT_TOUCHES,
  }),
  look: () => ({
    send: (address: string) => service.POST("/api/v1/first-look", { body: { address } }),
    touches: [],
  }),
  setUp: () => ({
    send: (body: NewClient) => service.POST("/api/v1/clients/set-up", { body }),
    touches: [...CLIENT_TOUCHES, KEYS.members, KEYS.runs],
  }),
  add: () => ({
    send: (body: { name: string }) => service.POST("/api/v1/clients", { body }),
    touches: [KEYS.clients],
  }),
};

export type SiteFilters = { tag?: string; owner?: number; text?: string };

export const presets = {
  all: () => queryOptions({ queryKey: KEYS.presets, queryFn: () => service.GET("/api/v1/presets") }),
  add: () => ({
    send: (body: PresetBody) => service.POST("/api/v1/presets", { body }),
    touches: [KEYS.presets],
  }),
  change: ({ id, version }: { id: number; version: number }) => ({
    send: (body: PresetChange) =>
      service.PATCH("/api/v1/presets/{preset_id}", {
        params: { path: { preset_id: id }, header: ifMatch(version) },
        body,
      }),
    touches: [KEYS.presets],
  }),
  remove: () => ({
    send: (preset_id: number) => service.DELETE("/api/v1/presets/{preset_id}", { params: { path: { preset_id } } }),
    touches: [KEYS.presets],
  }),
};

export const week = (from: string, days: number, client?: number) =>
  queryOptions({
    queryKey: [...KEYS.week, from, days, client ?? 0],
    queryFn: () => service.GET("/api/v1/week", { params: { query: { from, days, client } } }),
    placeholderData: (before) => before,
  });

export const sites = {
  all: (kind?: SiteKind, filters: SiteFilters = {}) =>
    queryOptions({
      queryKey: [...KEYS.sites, "list", kind ?? "", filters],
      queryFn: () => service.GET("/api/v1/sites", { params: { query: { kind, ...filters } } }),
      placeholderData: (before) => before,
    }),
  planChanges: () => ({
    send: (body: SitesPick) => service.POST("/api/v1/sites/changes/plan", { body }),
    touches: [],
  }),
  changeAll: () => ({
    send: (changes: SiteChange[]) => service.POST("/api/v1/sites/changes", { body: { changes } }),
    touches: MANY_TOUCH,
  }),
  pause: (id: number, paused: boolean) => ({
    send: () =>
      paused
        ? service.POST("/api/v1/sites/{site_id}/schedule/pause", of(id))
        : service.POST("/api/v1/sites/{site_id}/schedule/resume", of(id)),
    touches: [[...KEYS.sites, id], KEYS.desk, KEYS.week],
  }),
  one: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.sites, id],
      queryFn: () => service.GET("/api/v1/sites/{site_id}", of(id)),
      refetchInterval: WHILE_IT_IS_LOOKED_AT_MS,
    }),
  add: () => ({
    send: (body: { client_id: number; address: string; kind: SiteKind }) => service.POST("/api/v1/sites", { body }),
    touches: [KEYS.sites, KEYS.clients, KEYS.desk],
  }),
  setSchedule: (id: number) => ({
    send: (body: ScheduleBody) => service.PUT("/api/v1/sites/{site_id}/schedule", { ...of(id), body }),
    touches: [[...KEYS.sites, id], KEYS.desk, KEYS.week],
  }),
  removeSchedule: (id: number) => ({
    send: () => service.DELETE("/api/v1/sites/{site_id}/schedule", of(id)),
    touches: [[...KEYS.sites, id], KEYS.desk, KEYS.week],
  }),
  look: (id: number) => ({
    send: (body: { url: string }) => service.POST("/api/v1/sites/{site_id}/look", { ...of(id), body }),
    touches: [],
  }),
};

export const access = {
  of: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.access, id],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/access", of(id)),
    }),
  set: (id: number) => ({
    send: (body: AccessBody) => service.PUT("/api/v1/sites/{site_id}/access", { ...of(id), body }),
    touches: [[...KEYS.access, id]],
  }),
  forget: (id: number) => ({
    send: () => service.DELETE("/api/v1/sites/{site_id}/access", of(id)),
    touches: [[...KEYS.access, id]],
  }),
};

/** What a waiver changes: the latest run of the site, and everything that tells of it. */
const COUNTED_ANEW = [
  KEYS.waivers,
  KEYS.runs,
  KEYS.findings,
  KEYS.pages,
  KEYS.comparisons,
  KEYS.sites,
  KEYS.trends,
  KEYS.desk,
];

export const waivers = {
  of: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.waivers, id],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/waivers", of(id)),
    }),
  /** What waivers would do to the latest run. */
  preview: (id: number, scopes: WaiverScope[], enabled: boolean) =>
    queryOptions({
      queryKey: [...KEYS.waivers, id, "preview", scopes],
      queryFn: () => service.POST("/api/v1/sites/{site_id}/waivers/preview", { ...of(id), body: { waivers: scopes } }),
      enabled,
      retry: false,
    }),
  add: (id: number) => ({
    send: (bodies: WaiverBody[]) =>
      service.POST("/api/v1/sites/{site_id}/waivers/all", { ...of(id), body: { waivers: bodies } }),
    touches: COUNTED_ANEW,
  }),
  change: () => ({
    send: ({ id, ...body }: { id: number; reason?: string; end?: string | null }) =>
      service.PATCH("/api/v1/waivers/{waiver_id}", { params: { path: { waiver_id: id } }, body }),
    touches: COUNTED_ANEW,
  }),
  end: () => ({
    send: (ids: number[]) => service.POST("/api/v1/waivers/remove", { body: { ids } }),
    touches: COUNTED_ANEW,
  }),
};

/** A time, open where it is empty, and how far apart points are. */
export type TrendAsked = { from: string; to: string; every: "run" | "week" | "month" };

export const trends = {
  of: (id: number, figure: string, { from, to, every }: TrendAsked) =>
    queryOptions({
      queryKey: [...KEYS.trends, id, figure, from, to, every],
      queryFn: () =>
        service.GET("/api/v1/sites/{site_id}/trend", {
          params: {
            path: { site_id: id },
            query: { figure, every, ...(from ? { from } : {}), ...(to ? { to } : {}) },
          },
        }),
    }),
  figures: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.trends, id, "figures"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/trend-figures", of(id)),
    }),
  remarks: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.trends, id, "remarks"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/remarks", of(id)),
    }),
  addRemark: (id: number) => ({
    send: (body: { day: string; text: string }) => service.POST("/api/v1/sites/{site_id}/remarks", { ...of(id), body }),
    touches: [[...KEYS.trends, id]],
  }),
  removeRemark: (id: number) => ({
    send: (remark_id: number) => service.DELETE("/api/v1/remarks/{remark_id}", { params: { path: { remark_id } } }),
    touches: [[...KEYS.trends, id]],
  }),
};

export const profiles = {
  all: () => queryOptions({ queryKey: KEYS.profiles, queryFn: () => service.GET("/api/v1/profiles") }),
  add: () => ({
    send: (body: { name: string; note: string }) => service.POST("/api/v1/profiles", { body }),
    touches: [KEYS.profiles],
  }),
  change: (profile: Profile) => ({
    send: (body: ProfileChange) =>
      service.PATCH("/api/v1/profiles/{profile_id}", {
        params: { path: { profile_id: profile.id }, header: ifMatch(profile.version) },
        body,
      }),
    touches: [KEYS.profiles, KEYS.plans],
  }),
  remove: (profile_id: number) => ({
    send: () => service.DELETE("/api/v1/profiles/{profile_id}", { params: { path: { profile_id } } }),
    touches: [KEYS.profiles],
  }),
};

export const plans = {
  settings: () =>
    queryOptions({
      queryKey: [...KEYS.plans, "settings"],
      queryFn: () => service.GET("/api/v1/plan-settings"),
    }),
  of: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.plans, id],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/plan", of(id)),
    }),
  change: (id: number, version: number) => ({
    send: (values: PlanValues) =>
      service.PATCH("/api/v1/sites/{site_id}/plan", {
        params: { path: { site_id: id }, header: ifMatch(version) },
        body: { values },
      }),
    touches: [[...KEYS.plans, id], KEYS.profiles],
  }),
  preview: (id: number) => ({
    send: (body: { values: PlanValues; addresses: string[] }) =>
      service.POST("/api/v1/sites/{site_id}/plan/preview", { ...of(id), body }),
    touches: [],
  }),
  asText: (id: number) => ({
    send: () => service.GET("/api/v1/sites/{site_id}/plan/toml", of(id)),
    touches: [],
  }),
  replace: (id: number) => ({
    send: (body: { toml: string }) => service.PUT("/api/v1/sites/{site_id}/plan/toml", { ...of(id), body }),
    touches: [[...KEYS.plans, id]],
  }),
  copy: (id: number) => ({
    send: (body: { from_site: number }) => service.POST("/api/v1/sites/{site_id}/plan/copy", { ...of(id), body }),
    touches: [[...KEYS.plans, id]],
  }),
};

export const sitemaps = {
  preview: (run_id: string, query: SitemapOptions) =>
    queryOptions({
      queryKey: [...KEYS.pages, run_id, "sitemap", query],
      queryFn: () => service.GET("/api/v1/runs/{run_id}/sitemap", { params: { path: { run_id }, query } }),
      placeholderData: (before) => before,
    }),
  download: (run_id: string, { where, ...flags }: SitemapOptions) =>
    `/api/v1/runs/${run_id}/sitemap/export?${new URLSearchParams({ where, ...Object.fromEntries(Object.entries(flags).map(([name, on]) => [name, String(on)])) })}`,
  published: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.sites, site_id, "sitemap"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/sitemap", { params: { path: { site_id } } }),
    }),
  publish: (site_id: number) => ({
    send: (body: SitemapOptions) =>
      service.PUT("/api/v1/sites/{site_id}/sitemap", { params: { path: { site_id } }, body }),
    touches: [[...KEYS.sites, site_id, "sitemap"]],
  }),
  withdraw: (site_id: number) => ({
    send: () => service.DELETE("/api/v1/sites/{site_id}/sitemap", { params: { path: { site_id } } }),
    touches: [[...KEYS.sites, site_id, "sitemap"]],
  }),
};
