import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { service } from "../service";
import type {
  BacklinkState,
  FigureFeedBody,
  FigureFeedChange,
  FigureKind,
  FigureLayout,
  SearchView,
  VisitView,
} from "../types";
import { KEYS } from "./keys";

const PART = 100;

/** What is asked of search figures; what is left out does not narrow. */
export type SearchAsked = {
  by: "query" | "page";
  view: SearchView;
  weeks: number;
  brand?: "both" | "only" | "without";
  device?: string;
  country?: string;
  text?: string;
  sort?: string;
};

export type VisitsAsked = {
  by: "page" | "channel";
  view: VisitView;
  weeks: number;
  channel: string;
  text: string;
  sort: string;
};

export type PositionsAsked = { device: string; place: string; text: string; moved: boolean };

const TOUCHED = [KEYS.figures, KEYS.benchmarks, KEYS.todos];

export const figures = {
  sets: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "sets"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/figures", { params: { path: { site_id } } }),
    }),
  search: (site_id: number, asked: SearchAsked) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.figures, site_id, "search", asked],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/sites/{site_id}/search-figures", {
          params: { path: { site_id }, query: { ...asked, limit: PART, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
      placeholderData: keepPreviousData,
    }),
  visits: (site_id: number, asked: VisitsAsked) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.figures, site_id, "visits", asked],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/sites/{site_id}/visits", {
          params: { path: { site_id }, query: { ...asked, limit: PART, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
      placeholderData: keepPreviousData,
    }),
  page: (site_id: number, url: string) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "page", url],
      queryFn: () =>
        service.GET("/api/v1/sites/{site_id}/page-figures", { params: { path: { site_id }, query: { url } } }),
    }),
  domain: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "domain"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/domain", { params: { path: { site_id } } }),
    }),
  feeds: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "feeds"],
      queryFn: () => service.GET("/api/v1/figure-feeds", { params: { query: { site_id } } }),
    }),
  addFeed: (site_id: number) => ({
    send: (body: FigureFeedBody) =>
      service.POST("/api/v1/sites/{site_id}/figure-feeds", { params: { path: { site_id } }, body }),
    touches: [KEYS.figures],
  }),
  changeFeed: () => ({
    send: ({ id, ...body }: FigureFeedChange & { id: number }) =>
      service.PATCH("/api/v1/figure-feeds/{feed_id}", { params: { path: { feed_id: id } }, body }),
    touches: [KEYS.figures, KEYS.desk],
  }),
  removeFeed: () => ({
    send: (feed_id: number) => service.DELETE("/api/v1/figure-feeds/{feed_id}", { params: { path: { feed_id } } }),
    touches: [KEYS.figures, KEYS.desk],
  }),
  pullFeed: () => ({
    send: (feed_id: number) => service.POST("/api/v1/figure-feeds/{feed_id}/pull", { params: { path: { feed_id } } }),
    touches: [KEYS.figures],
  }),
  positions: (site_id: number, asked: PositionsAsked) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.figures, site_id, "positions", asked],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/sites/{site_id}/positions", {
          params: { path: { site_id }, query: { ...asked, limit: PART, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
      placeholderData: keepPreviousData,
    }),
  backlinks: (site_id: number, asked: { state: BacklinkState; text: string }) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.figures, site_id, "backlinks", asked],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/sites/{site_id}/backlinks", {
          params: { path: { site_id }, query: { ...asked, limit: PART, after: pageParam } },
        }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
      placeholderData: keepPreviousData,
    }),
  tables: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "tables"],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/figure-files", { params: { path: { site_id } } }),
    }),
  table: (site_id: number, file_id: number) =>
    queryOptions({
      queryKey: [...KEYS.figures, site_id, "tables", file_id],
      queryFn: () =>
        service.GET("/api/v1/sites/{site_id}/figure-files/{file_id}", { params: { path: { site_id, file_id } } }),
    }),
  add: (site_id: number) => ({
    send: (body: { name: string; content: string }) =>
      service.POST("/api/v1/sites/{site_id}/figure-files", {
        params: { path: { site_id } },
        body: { source: "", ...body },
      }),
    touches: [KEYS.figures],
  }),
  layOut: (site_id: number, file_id: number) => ({
    send: (body: { layout?: FigureLayout; kind?: FigureKind; sheet?: string; source?: string }) =>
      service.PUT("/api/v1/sites/{site_id}/figure-files/{file_id}/layout", {
        params: { path: { site_id, file_id } },
        body,
      }),
    touches: [KEYS.figures],
  }),
  import: (site_id: number, file_id: number) => ({
    send: (leave_out: boolean) =>
      service.POST("/api/v1/sites/{site_id}/figure-files/{file_id}/import", {
        params: { path: { site_id, file_id } },
        body: { leave_out },
      }),
    touches: TOUCHED,
  }),
  remove: (site_id: number) => ({
    send: (file_id: number) =>
      service.DELETE("/api/v1/sites/{site_id}/figure-files/{file_id}", { params: { path: { site_id, file_id } } }),
    touches: [KEYS.figures],
  }),
  paid: (todo_id: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, todo_id, "paid"],
      queryFn: () => service.GET("/api/v1/todos/{todo_id}/paid", { params: { path: { todo_id } } }),
    }),
};
