import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { service } from "../service";
import type { InvitationBody, MemberChange, PreferencesChange, TokenBody, WebhookBody, WebhookChange } from "../types";
import { KEYS } from "./keys";

export const session = {
  me: () => queryOptions({ queryKey: KEYS.session, queryFn: () => service.GET("/api/v1/session") }),
  signIn: () => ({
    send: (body: { email: string; password: string; code?: string }) =>
      service.POST("/api/v1/session", { body: { code: "", ...body } }),
    touches: [KEYS.session],
  }),
  beginSecond: () => ({
    send: (body: { password: string }) => service.POST("/api/v1/session/second", { body }),
    touches: [],
  }),
  confirmSecond: () => ({
    send: (body: { code: string }) => service.POST("/api/v1/session/second/confirm", { body }),
    touches: [KEYS.session, KEYS.members],
  }),
  endSecond: () => ({
    send: (body: { password: string }) => service.POST("/api/v1/session/second/off", { body }),
    touches: [KEYS.session, KEYS.members],
  }),
  askReset: () => ({
    send: (body: { email: string }) => service.POST("/api/v1/session/reset", { body }),
    touches: [],
  }),
  setPassword: () => ({
    send: (body: { secret: string; password: string }) => service.POST("/api/v1/session/password", { body }),
    touches: [KEYS.session],
  }),
  signOut: () => ({ send: () => service.DELETE("/api/v1/session"), touches: [] }),
  change: () => ({
    send: (body: PreferencesChange) => service.PATCH("/api/v1/session", { body }),
    touches: [KEYS.session, KEYS.members, KEYS.tokens],
  }),
};

export const members = {
  all: () => queryOptions({ queryKey: KEYS.members, queryFn: () => service.GET("/api/v1/members") }),
  invite: () => ({
    send: (body: InvitationBody) => service.POST("/api/v1/members/invitations", { body }),
    touches: [KEYS.members, KEYS.mails],
  }),
  inviteAgain: () => ({
    send: (member_id: number) =>
      service.POST("/api/v1/members/{member_id}/invitation", { params: { path: { member_id } } }),
    touches: [KEYS.members, KEYS.mails],
  }),
  change: () => ({
    send: ({ id, ...body }: MemberChange & { id: number }) =>
      service.PATCH("/api/v1/members/{member_id}", { params: { path: { member_id: id } }, body }),
    touches: [KEYS.members, KEYS.todos, KEYS.desk],
  }),
};

export const sessions = {
  all: () => queryOptions({ queryKey: KEYS.sessions, queryFn: () => service.GET("/api/v1/sessions") }),
  end: () => ({
    send: (session_id: string) => service.DELETE("/api/v1/sessions/{session_id}", { params: { path: { session_id } } }),
    touches: [KEYS.sessions],
  }),
};

export const changesLog = {
  of: (text: string, who: number | undefined) =>
    infiniteQueryOptions({
      queryKey: [...KEYS.log, text, who],
      queryFn: ({ pageParam }) =>
        service.GET("/api/v1/log", { params: { query: { text, who, limit: 100, after: pageParam } } }),
      initialPageParam: 0,
      getNextPageParam: (part) => (part.after ? Number(part.after) : undefined),
    }),
};

export const mails = {
  all: () => queryOptions({ queryKey: KEYS.mails, queryFn: () => service.GET("/api/v1/deliveries") }),
  again: () => ({
    send: (delivery_id: number) =>
      service.POST("/api/v1/deliveries/{delivery_id}/again", { params: { path: { delivery_id } } }),
    touches: [KEYS.mails, KEYS.desk],
  }),
};

export const retention = {
  of: (weeks: number) =>
    queryOptions({
      queryKey: [...KEYS.files, weeks],
      queryFn: () => service.GET("/api/v1/retention", { params: { query: { weeks } } }),
    }),
  apply: () => ({
    send: (weeks: number) => service.POST("/api/v1/retention", { body: { weeks } }),
    touches: [KEYS.files, KEYS.runs],
  }),
};

export const feeds = {
  all: () => queryOptions({ queryKey: KEYS.feeds, queryFn: () => service.GET("/api/v1/feeds") }),
  add: () => ({
    send: (body: { client_id: number | null }) => service.POST("/api/v1/feeds", { body }),
    touches: [KEYS.feeds],
  }),
  remove: () => ({
    send: (feed_id: number) => service.DELETE("/api/v1/feeds/{feed_id}", { params: { path: { feed_id } } }),
    touches: [KEYS.feeds],
  }),
};

export const webhooks = {
  all: () => queryOptions({ queryKey: KEYS.webhooks, queryFn: () => service.GET("/api/v1/webhooks") }),
  log: (webhook_id: number) =>
    queryOptions({
      queryKey: [...KEYS.webhooks, webhook_id],
      queryFn: () => service.GET("/api/v1/webhooks/{webhook_id}/messages", { params: { path: { webhook_id } } }),
    }),
  add: () => ({
    send: (body: WebhookBody) => service.POST("/api/v1/webhooks", { body }),
    touches: [KEYS.webhooks],
  }),
  change: () => ({
    send: ({ id, ...body }: WebhookChange & { id: number }) =>
      service.PATCH("/api/v1/webhooks/{webhook_id}", { params: { path: { webhook_id: id } }, body }),
    touches: [KEYS.webhooks, KEYS.desk],
  }),
  remove: () => ({
    send: (webhook_id: number) => service.DELETE("/api/v1/webhooks/{webhook_id}", { params: { path: { webhook_id } } }),
    touches: [KEYS.webhooks, KEYS.desk],
  }),
  renew: () => ({
    send: (webhook_id: number) =>
      service.POST("/api/v1/webhooks/{webhook_id}/secret", { params: { path: { webhook_id } } }),
    touches: [KEYS.webhooks],
  }),
  tryOut: () => ({
    send: (webhook_id: number) =>
      service.POST("/api/v1/webhooks/{webhook_id}/test", { params: { path: { webhook_id } } }),
    touches: [KEYS.webhooks],
  }),
  again: (webhook_id: number) => ({
    send: (message: number) =>
      service.POST("/api/v1/webhooks/{webhook_id}/messages/{message}/again", {
        params: { path: { webhook_id, message } },
      }),
    touches: [KEYS.webhooks],
  }),
};

export const tokens = {
  all: () => queryOptions({ queryKey: KEYS.tokens, queryFn: () => service.GET("/api/v1/tokens") }),
  ofEverybody: () =>
    queryOptions({ queryKey: [...KEYS.tokens, "everybody"], queryFn: () => service.GET("/api/v1/tokens/everybody") }),
  add: () => ({
    send: (body: TokenBody) => service.POST("/api/v1/tokens", { body }),
    touches: [KEYS.tokens],
  }),
  revoke: () => ({
    send: (token_id: number) => service.DELETE("/api/v1/tokens/{token_id}", { params: { path: { token_id } } }),
    touches: [KEYS.tokens],
  }),
};
