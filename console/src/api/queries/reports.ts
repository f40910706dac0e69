import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { ifMatch, service } from "../service";
import type {
  BrandBody,
  ReportBody,
  ReportChange,
  ReportLinkBody,
  ReportScheduleBody,
  ReportScheduleChange,
  ReportSection,
  ReportSending,
  ReportTemplateBody,
} from "../types";
import { KEYS } from "./keys";

/** How many days from now a link is good for that is prolonged. */
export const LINK_DAYS = 90;

const of = (report_id: number) => ({ params: { path: { report_id } } });
const versioned = (report_id: number, version: number) => ({
  params: { path: { report_id }, header: ifMatch(version) },
});

export const reports = {
  all: () => queryOptions({ queryKey: KEYS.reports, queryFn: () => service.GET("/api/v1/reports") }),
  offer: () =>
    queryOptions({
      queryKey: [...KEYS.reports, "offer"],
      queryFn: () => service.GET("/api/v1/report-sections"),
      staleTime: Infinity,
    }),
  one: (id: number) =>
    queryOptions({
      queryKey: [...KEYS.reports, id],
      queryFn: () => service.GET("/api/v1/reports/{report_id}", of(id)),
    }),
  add: () => ({
    send: (body: ReportBody) => service.POST("/api/v1/reports", { body }),
    touches: [KEYS.reports],
  }),
  change: (id: number, version: number) => ({
    send: (body: ReportChange) => service.PATCH("/api/v1/reports/{report_id}", { ...versioned(id, version), body }),
    touches: [KEYS.reports],
  }),
  /** A report as a page, as it would be after changes. */
  preview: (id: number, body: ReportChange) =>
    queryOptions({
      queryKey: [...KEYS.reports, id, "preview", body],
      queryFn: async (): Promise<string> =>
        (await service.POST("/api/v1/reports/{report_id}/preview", { ...of(id), body, parseAs: "text" })) ?? "",
      placeholderData: keepPreviousData,
      gcTime: 60_000,
    }),
  refresh: (id: number) => ({
    send: () => service.POST("/api/v1/reports/{report_id}/refresh", of(id)),
    touches: [KEYS.reports],
  }),
  restore: (report_id: number) => ({
    send: (number: number) =>
      service.POST("/api/v1/reports/{report_id}/versions/{number}/restore", {
        params: { path: { report_id, number } },
      }),
    touches: [KEYS.reports],
  }),
  approve: (id: number, version: number) => ({
    send: (send: boolean) =>
      service.POST("/api/v1/reports/{report_id}/approval", { ...versioned(id, version), body: { send } }),
    touches: [KEYS.reports, KEYS.mails],
  }),
  send: (id: number) => ({
    send: (body: ReportSending) => service.POST("/api/v1/reports/{report_id}/sendings", { ...of(id), body }),
    touches: [KEYS.reports, KEYS.mails],
  }),
  remove: (id: number) => ({
    send: () => service.DELETE("/api/v1/reports/{report_id}", of(id)),
    touches: [KEYS.reports],
  }),
  addLink: (id: number) => ({
    send: (body: ReportLinkBody) => service.POST("/api/v1/reports/{report_id}/links", { ...of(id), body }),
    touches: [KEYS.reports],
  }),
  prolongLink: (report_id: number) => ({
    send: (link_id: number) =>
      service.PATCH("/api/v1/reports/{report_id}/links/{link_id}", {
        params: { path: { report_id, link_id } },
        body: { days: LINK_DAYS },
      }),
    touches: [KEYS.reports],
  }),
  revokeLink: (report_id: number) => ({
    send: (link_id: number) =>
      service.DELETE("/api/v1/reports/{report_id}/links/{link_id}", { params: { path: { report_id, link_id } } }),
    touches: [KEYS.reports],
  }),
  templates: () =>
    queryOptions({ queryKey: [...KEYS.reports, "templates"], queryFn: () => service.GET("/api/v1/report-templates") }),
  addTemplate: () => ({
    send: (body: ReportTemplateBody) => service.POST("/api/v1/report-templates", { body }),
    touches: [KEYS.reports],
  }),
  replaceTemplate: (template_id: number, version: number) => ({
    send: (body: ReportTemplateBody) =>
      service.PUT("/api/v1/report-templates/{template_id}", {
        params: { path: { template_id }, header: ifMatch(version) },
        body,
      }),
    touches: [KEYS.reports],
  }),
  /** What a report of last month on a site would be with some sections, as a page. */
  trial: (site_id: number, sections: ReportSection[]) =>
    queryOptions({
      queryKey: [...KEYS.trials, site_id, sections],
      queryFn: async (): Promise<string> =>
        (await service.POST("/api/v1/report-templates/trial", { body: { site_id, sections }, parseAs: "text" })) ?? "",
      placeholderData: keepPreviousData,
      gcTime: 60_000,
    }),
  removeTemplate: () => ({
    send: (template_id: number) =>
      service.DELETE("/api/v1/report-templates/{template_id}", { params: { path: { template_id } } }),
    touches: [KEYS.reports],
  }),
  schedules: () =>
    queryOptions({ queryKey: [...KEYS.reports, "schedules"], queryFn: () => service.GET("/api/v1/report-schedules") }),
  addSchedule: () => ({
    send: (body: ReportScheduleBody) => service.POST("/api/v1/report-schedules", { body }),
    touches: [KEYS.reports],
  }),
  changeSchedule: (schedule_id: number) => ({
    send: (body: ReportScheduleChange) =>
      service.PATCH("/api/v1/report-schedules/{schedule_id}", { params: { path: { schedule_id } }, body }),
    touches: [KEYS.reports],
  }),
  removeSchedule: (schedule_id: number) => ({
    send: () => service.DELETE("/api/v1/report-schedules/{schedule_id}", { params: { path: { schedule_id } } }),
    touches: [KEYS.reports],
  }),
};

/** How reports look: those of the agency, or for one client. */
export const brands = {
  of: (client_id?: number) =>
    queryOptions({
      queryKey: [...KEYS.reports, "brand", client_id ?? 0],
      queryFn: () =>
        client_id === undefined
          ? service.GET("/api/v1/brand")
          : service.GET("/api/v1/clients/{client_id}/brand", { params: { path: { client_id } } }),
    }),
  set: (client_id?: number) => ({
    send: (body: BrandBody) =>
      client_id === undefined
        ? service.PATCH("/api/v1/brand", { body })
        : service.PATCH("/api/v1/clients/{client_id}/brand", { params: { path: { client_id } }, body }),
    touches: [KEYS.reports, KEYS.clients],
  }),
};

export const portals = {
  of: (client_id: number) =>
    queryOptions({
      queryKey: [...KEYS.reports, "portal", client_id],
      queryFn: () => service.GET("/api/v1/clients/{client_id}/portal", { params: { path: { client_id } } }),
    }),
};
