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
  const readAgain = () => Promise.all(touches.map((queryKey) => cache.invalidateQueries({ queryKey })));
  return useMutation<Out, ProblemError, Body>({
    mutationFn: send,
    onSuccess: readAgain,
    // Somebody was faster: what they did is read, so that it can be seen.
    onError: (problem) => (problem.status === 409 ? readAgain() : undefined),
  });
}

/**
 * Sends a change and goes on when it is made, also when what asked for it is no longer on the screen: a row whose finding was
 * waived, a notice with an undo. What went wrong is said by `failed`, or stays with the change, which shows it.
 */
export function sendThen<Out, Body>(
  change: { mutateAsync: (body: Body) => Promise<Out> },
  body: Body,
  done: (out: Out) => void,
  failed: (problem: ProblemError) => void = () => undefined,
): void {
  change.mutateAsync(body).then(done, failed);
}

/** Asks the service again only when it did not answer; what it refused it will refuse again. */
export const retry = (count: number, error: ProblemError) => error.status === 0 && count < 2;
