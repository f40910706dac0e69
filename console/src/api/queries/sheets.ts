import { queryOptions } from "@tanstack/react-query";
import { service } from "../service";
import type { SheetAnswer, SheetTemplateBody } from "../types";
import { KEYS } from "./keys";

const of = (sheet_id: number) => ({ params: { path: { sheet_id } } });

export const sheets = {
  templates: () =>
    queryOptions({ queryKey: [...KEYS.sheets, "templates"], queryFn: () => service.GET("/api/v1/sheet-templates") }),
  addTemplate: () => ({
    send: (body: SheetTemplateBody) => service.POST("/api/v1/sheet-templates", { body }),
    touches: [KEYS.sheets],
  }),
  removeTemplate: () => ({
    send: (id: string) =>
      service.DELETE("/api/v1/sheet-templates/{template_id}", { params: { path: { template_id: Number(id) } } }),
    touches: [KEYS.sheets],
  }),
  ofSite: (site_id: number) =>
    queryOptions({
      queryKey: [...KEYS.sheets, "site", site_id],
      queryFn: () => service.GET("/api/v1/sites/{site_id}/sheets", { params: { path: { site_id } } }),
    }),
  start: (site_id: number) => ({
    send: (template: string) =>
      service.POST("/api/v1/sites/{site_id}/sheets", { params: { path: { site_id } }, body: { template } }),
    touches: [KEYS.sheets],
  }),
  one: (sheet_id: number) =>
    queryOptions({
      queryKey: [...KEYS.sheets, sheet_id],
      queryFn: () => service.GET("/api/v1/sheets/{sheet_id}", of(sheet_id)),
    }),
  answer: (sheet_id: number) => ({
    send: (answer: SheetAnswer) =>
      service.PATCH("/api/v1/sheets/{sheet_id}", { ...of(sheet_id), body: { answers: [answer], table: "" } }),
    touches: [KEYS.sheets],
  }),
  fillIn: (sheet_id: number) => ({
    send: (table: string) =>
      service.PATCH("/api/v1/sheets/{sheet_id}", { ...of(sheet_id), body: { answers: [], table } }),
    touches: [KEYS.sheets],
  }),
  prefill: (sheet_id: number) => ({
    send: () => service.POST("/api/v1/sheets/{sheet_id}/prefill", of(sheet_id)),
    touches: [KEYS.sheets],
  }),
  remove: (sheet_id: number) => ({
    send: () => service.DELETE("/api/v1/sheets/{sheet_id}", of(sheet_id)),
    touches: [KEYS.sheets],
  }),
  makeTodos: (sheet_id: number) => ({
    send: (items: string[]) =>
      service.POST("/api/v1/sheets/{sheet_id}/todos", {
        ...of(sheet_id),
        body: { items, priority: "normal" as const },
      }),
    touches: [KEYS.sheets, KEYS.todos],
  }),
  attach: (sheet_id: number) => ({
    send: (body: { item: string; name: string; content: string }) =>
      service.POST("/api/v1/sheets/{sheet_id}/files", { ...of(sheet_id), body }),
    touches: [KEYS.sheets],
  }),
  detach: (sheet_id: number) => ({
    send: (file_id: number) =>
      service.DELETE("/api/v1/sheets/{sheet_id}/files/{file_id}", { params: { path: { sheet_id, file_id } } }),
    touches: [KEYS.sheets],
  }),
};
