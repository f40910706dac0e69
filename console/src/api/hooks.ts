/** Server state: one hook for reading, one for changing. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, get, ProblemError } from "./client";

/** Reads a path; `everyMs` reads it again while something is under way. */
export function useRead<T>(path: string | null, everyMs?: number) {
  return useQuery<T, ProblemError>({
    queryKey: [path],
    queryFn: () => get<T>(path as string),
    enabled: path !== null,
    refetchInterval: everyMs ?? false,
    retry: (count, error) => error.status === 0 && count < 2,
    placeholderData: (before) => (everyMs ? before : undefined),
  });
}

/** Sends a change; everything that is shown is read again afterwards. */
export function useChange<Body, Out = unknown>(
  method: string,
  path: string | ((body: Body) => string),
  version?: number,
) {
  const cache = useQueryClient();
  return useMutation<Out, ProblemError, Body>({
    mutationFn: (body) =>
      call<Out>(
        method,
        typeof path === "function" ? path(body) : path,
        method === "DELETE" ? undefined : body,
        version,
      ),
    onSuccess: () => cache.invalidateQueries(),
  });
}
