/** Changes: what is sent, and which nouns it touches. Only what was touched is read again. */
import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import type { ProblemError } from "./service";

declare module "@tanstack/react-query" {
  interface Register {
    defaultError: ProblemError;
  }
}

export type Sending<Out, Body = void> = { send: (body: Body) => Promise<Out>; touches: readonly QueryKey[] };

export function useChange<Out, Body = void>({ send, touches }: Sending<Out, Body>) {
  const cache = useQueryClient();
  return useMutation<Out, ProblemError, Body>({
    mutationFn: send,
    onSuccess: () => Promise.all(touches.map((queryKey) => cache.invalidateQueries({ queryKey }))),
  });
}

/** Asks the service again only when it did not answer; what it refused it will refuse again. */
export const retry = (count: number, error: ProblemError) => error.status === 0 && count < 2;
