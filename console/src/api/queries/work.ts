import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { ifMatch, service } from "../service";
import type {
  BenchmarkBody,
  BenchmarkChange,
  DueSpan,
  Priority,
  RecurringBody,
  RoundScheduleBody,
  Severity,
  TodoBody,
  TodoChange,
  TodoEdit,
  TodoState,
  TodosBody,
  ViewBody,
  ViewPlace,
} from "../types";
import { KEYS } from "./keys";

const PART = 200;
const MOST = 1000;

/** Which to-dos; what is left out does not narrow. */
export type TodoFilters = {
  state?: TodoState | "live";
  assignee?: number;
  client?: number;
  label?: string;
  severity?: Severity;
  priority?: Priority;
  text?: string;
  due?: DueSpan;
  due_from?: string;
  due_to?: string;
  sort?: string;
};
const WHILE_A_ROUND_RUNS_MS = 20_000;
/** To-dos are counted at members and on the desk, and named beside findings and events. */
const TODOS_TOUCH = [KEYS.todos, KEYS.members, KEYS.desk, KEYS.findings, KEYS.comparisons, KEYS.sites];

export const views = {
  of: (place: ViewPlace) =>
    queryOptions({
      queryKey: [...KEYS.views, place],
      queryFn: () => service.GET("/api/v1/views", { params: { query: { place } } }),
    }),
  add: () => ({ send: (body: ViewBody) => service.POST("/api/v1/views", { body }), touches: [KEYS.views] }),
  remove: () => ({
    send: (view_id: number) => service.DELETE("/api/v1/views/{view_id}", { params: { path: { view_id } } }),
    touches: [KEYS.views],
  }),
};

export const approvals = {
  all: () => queryOptions({ queryKey: [...KEYS.todos, "approvals"], queryFn: () => service.GET("/api/v1/approvals") }),
  answer: (todo_id: number) => ({
    send: (body: { agrees: boolean; comment: string }) =>
      service.POST("/api/v1/todos/{todo_id}/approval", { params: { path: { todo_id } }, body }),
    touches: [KEYS.todos],
  }),
};

export const recurring = {
  all: (client?: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, "recurring", client ?? 0],
      queryFn: () => service.GET("/api/v1/recurring-todos", { params: { query: { client } } }),
    }),
  add: () => ({
    send: (body: RecurringBody) => service.POST("/api/v1/recurring-todos", { body }),
    touches: [KEYS.todos],
  }),
  remove: () => ({
    send: (recurring_id: number) =>
      service.DELETE("/api/v1/recurring-todos/{recurring_id}", { params: { path: { recurring_id } } }),
    touches: [KEYS.todos],
  }),
};

export const todoFiles = {
  of: (todo_id: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, todo_id, "files"],
      queryFn: () => service.GET("/api/v1/todos/{todo_id}/files", { params: { path: { todo_id } } }),
    }),
  add: (todo_id: number) => ({
    send: (body: { name: string; content: string }) =>
      service.POST("/api/v1/todos/{todo_id}/files", { params: { path: { todo_id } }, body }),
    touches: [KEYS.todos],
  }),
  remove: (todo_id: number) => ({
    send: (file_id: number) =>
      service.DELETE("/api/v1/todos/{todo_id}/files/{file_id}", { params: { path: { todo_id, file_id } } }),
    touches: [KEYS.todos],
  }),
};

export const todos = {
  take: () => ({
    send: (body: { csv: string; check_only: boolean }) => service.POST("/api/v1/todos/import", { body }),
    touches: [KEYS.todos, KEYS.desk],
  }),
  links: (todo_id: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, todo_id, "links"],
      queryFn: () => service.GET("/api/v1/todos/{todo_id}/links", { params: { path: { todo_id } } }),
    }),
  share: (todo_id: number) => ({
    send: (body: { name: string; asks_approval: boolean }) =>
      service.POST("/api/v1/todos/{todo_id}/links", { params: { path: { todo_id } }, body: { days: 90, ...body } }),
    touches: [KEYS.todos],
  }),
  unshare: (todo_id: number) => ({
    send: (link_id: number) =>
      service.DELETE("/api/v1/todos/{todo_id}/links/{link_id}", { params: { path: { todo_id, link_id } } }),
    touches: [KEYS.todos],
  }),
  list: (filters: TodoFilters) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.todos, "list", filters],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/todos", { params: { query: { ...filters, limit: PART, after: pageParam } } }),
      initialPageParam: 0,
      getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
    }),
  /** As many as the service gives at once: for a board or a month, which show all or say that there are more. */
  all: (filters: TodoFilters) =>
    queryOptions({
      queryKey: [...KEYS.todos, "all", filters],
      queryFn: () => service.GET("/api/v1/todos", { params: { query: { ...filters, limit: MOST } } }),
    }),
  load: (client?: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, "load", client ?? ""],
      queryFn: () => service.GET("/api/v1/todos/load", { params: { query: { client } } }),
    }),
  labels: () =>
    queryOptions({ queryKey: [...KEYS.todos, "labels"], queryFn: () => service.GET("/api/v1/todos/labels") }),
  plan: (body: TodosBody, enabled: boolean) =>
    queryOptions({
      queryKey: [...KEYS.drafts, body],
      queryFn: () => service.POST("/api/v1/todos/plan", { body }),
      enabled,
      retry: false,
    }),
  addAll: () => ({
    send: (body: TodosBody) => service.POST("/api/v1/todos/all", { body }),
    touches: TODOS_TOUCH,
  }),
  changeAll: () => ({
    send: (body: { changes: TodoEdit[]; undo: boolean }) => service.PATCH("/api/v1/todos", { body }),
    touches: TODOS_TOUCH,
  }),
  count: (state: TodoState | "live", assignee: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, "count", state, assignee],
      queryFn: () => service.GET("/api/v1/todos", { params: { query: { state, assignee, limit: 1 } } }),
      select: (found) => found.total,
    }),
  one: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.todos, id],
      queryFn: () => service.GET("/api/v1/todos/{todo_id}", { params: { path: { todo_id: id } } }),
    }),
  add: () => ({
    send: (body: TodoBody) => service.POST("/api/v1/todos", { body }),
    touches: TODOS_TOUCH,
  }),
  check: (id: number) => ({
    send: () => service.POST("/api/v1/todos/{todo_id}/check", { params: { path: { todo_id: id } } }),
    touches: TODOS_TOUCH,
  }),
  change: (id: number, version: number) => ({
    send: (body: TodoChange) =>
      service.PATCH("/api/v1/todos/{todo_id}", {
        params: { path: { todo_id: id }, header: ifMatch(version) },
        body,
      }),
    touches: TODOS_TOUCH,
  }),
};

export const benchmarks = {
  all: () => queryOptions({ queryKey: KEYS.benchmarks, queryFn: () => service.GET("/api/v1/benchmarks") }),
  one: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.benchmarks, id],
      queryFn: () => service.GET("/api/v1/benchmarks/{benchmark_id}", { params: { path: { benchmark_id: id } } }),
      refetchInterval: WHILE_A_ROUND_RUNS_MS,
    }),
  /** A measure of every site over the rounds. */
  trend: (benchmark_id: number, measure: string, rounds: number) =>
    queryOptions({
      queryKey: [...KEYS.benchmarks, benchmark_id, "trend", measure, rounds],
      queryFn: () =>
        service.GET("/api/v1/benchmarks/{benchmark_id}/trend", {
          params: { path: { benchmark_id }, query: { measure } },
        }),
    }),
  add: () => ({
    send: (body: BenchmarkBody) => service.POST("/api/v1/benchmarks", { body }),
    touches: [KEYS.benchmarks],
  }),
  change: (benchmark_id: number) => ({
    send: (body: BenchmarkChange) =>
      service.PATCH("/api/v1/benchmarks/{benchmark_id}", { params: { path: { benchmark_id } }, body }),
    touches: [KEYS.benchmarks],
  }),
  remove: (benchmark_id: number) => ({
    send: () => service.DELETE("/api/v1/benchmarks/{benchmark_id}", { params: { path: { benchmark_id } } }),
    touches: [KEYS.benchmarks],
  }),
  setSchedule: (benchmark_id: number) => ({
    send: (body: RoundScheduleBody) =>
      service.PUT("/api/v1/benchmarks/{benchmark_id}/schedule", { params: { path: { benchmark_id } }, body }),
    touches: [KEYS.benchmarks],
  }),
  removeSchedule: (benchmark_id: number) => ({
    send: () => service.DELETE("/api/v1/benchmarks/{benchmark_id}/schedule", { params: { path: { benchmark_id } } }),
    touches: [KEYS.benchmarks],
  }),
  start: (id: number) => ({
    send: () => service.POST("/api/v1/benchmarks/{benchmark_id}/rounds", { params: { path: { benchmark_id: id } } }),
    touches: [KEYS.benchmarks, KEYS.desk],
  }),
};

export const catalogue = {
  all: () =>
    queryOptions({
      queryKey: [...KEYS.catalogue, "current"],
      queryFn: () => service.GET("/api/v1/catalogue"),
      staleTime: Infinity,
    }),
  /** On how many sites each check fails now. */
  failing: () =>
    queryOptions({
      queryKey: [...KEYS.findings, "failing"],
      queryFn: () => service.GET("/api/v1/failing-checks"),
    }),
  failingSites: (check_id: string) =>
    queryOptions({
      queryKey: [...KEYS.findings, "failing", check_id],
      queryFn: () => service.GET("/api/v1/failing-checks/{check_id}", { params: { path: { check_id } } }),
    }),
  /** With the checks that were retired. */
  whole: () =>
    queryOptions({
      queryKey: [...KEYS.catalogue, "whole"],
      queryFn: () => service.GET("/api/v1/catalogue", { params: { query: { retired: true } } }),
      staleTime: Infinity,
    }),
};
