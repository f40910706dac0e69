import { queryOptions } from "@tanstack/react-query";
import { service } from "../service";
import { KEYS } from "./keys";

// What is on no list, such as a disk that is full, is told by no change.
const WHILE_IT_IS_LOOKED_AT_MS = 10_000;

export const desk = {
  now: () =>
    queryOptions({
      queryKey: KEYS.desk,
      queryFn: () => service.GET("/api/v1/desk"),
      refetchInterval: WHILE_IT_IS_LOOKED_AT_MS,
    }),
  acknowledge: () => ({
    send: (alert_id: number) =>
      service.POST("/api/v1/desk/alerts/{alert_id}/acknowledge", { params: { path: { alert_id } } }),
    touches: [KEYS.desk],
  }),
  search: (text: string) =>
    queryOptions({
      queryKey: [...KEYS.search, text],
      queryFn: () => service.GET("/api/v1/search", { params: { query: { text, limit: 12 } } }),
      enabled: text.trim().length > 0,
      placeholderData: (before) => before,
    }),
};
