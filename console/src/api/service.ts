/** The one way to the service: its operations as the OpenAPI document gives them, problems as errors. */
import createClient, { type MaybeOptionalInit } from "openapi-fetch";
import type { HttpMethod, PathsWithMethod, RequiredKeysOf, SuccessResponseJSON } from "openapi-typescript-helpers";
import { allVisible } from "../lib/visible";
import type { components, paths } from "./generated";
import type { Member } from "./types";

export type Schemas = components["schemas"];
export type Operation = Member["may"][number];
export type Problem = Pick<Schemas["Problem"], "status" | "detail"> & { hint: string; field: string };

export class ProblemError extends Error implements Problem {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly hint: string,
    readonly field = "",
  ) {
    super(detail);
  }

  /** The same problem with a field called as the form calls it. */
  about(field: string, label: string): ProblemError {
    return new ProblemError(this.status, this.detail.replace(field, label), this.hint, this.field);
  }
}

type Answer = { data?: unknown; error?: unknown; response: Response };

/** What the service gave, or the problem it named. `status` 0: it does not answer at all. */
async function answer<T>(sent: Promise<Answer>): Promise<T> {
  let given: Answer;
  try {
    given = await sent;
  } catch (error) {
    if (error instanceof SyntaxError)
      throw new ProblemError(502, "The answer of the service cannot be read.", "Try again.");
    throw new ProblemError(0, "The service does not answer.", "Check the connection, then try again.");
  }
  if (!given.response.ok) throw problem(given.response.status, given.error);
  return allVisible(given.data) as T;
}

function problem(status: number, said: unknown): ProblemError {
  const found: Partial<Problem> = typeof said === "object" && said !== null ? allVisible(said) : {};
  return new ProblemError(
    status,
    found.detail ?? `The service answered ${status}.`,
    found.hint ?? "",
    found.field ?? "",
  );
}

/** The version that is being changed, as the service wants to be told it. */
export const ifMatch = (version: number) => ({ "If-Match": `"${version}"` });

const client = createClient<paths>({
  baseUrl: location.origin,
  credentials: "same-origin",
  fetch: (request) => globalThis.fetch(request),
});

type Paths<M extends HttpMethod> = PathsWithMethod<paths, M>;
type Init<P extends keyof paths, M extends HttpMethod> = MaybeOptionalInit<paths[P], M>;
// Written as the client writes it, so that both are one type to the compiler.
type More = { [key: string]: unknown };
type Given<I> = RequiredKeysOf<I> extends never ? [(I & More)?] : [I & More];
type Result<P extends keyof paths, M extends HttpMethod> = SuccessResponseJSON<NonNullable<paths[P][M]>>;

/** A path, parameter, body or result that the service does not have does not compile. */
export const service = {
  GET: <P extends Paths<"get">, I extends Init<P, "get">>(path: P, ...init: Given<I>) =>
    answer<Result<P, "get">>(client.GET<P, I>(path, ...init)),
  POST: <P extends Paths<"post">, I extends Init<P, "post">>(path: P, ...init: Given<I>) =>
    answer<Result<P, "post">>(client.POST<P, I>(path, ...init)),
  PUT: <P extends Paths<"put">, I extends Init<P, "put">>(path: P, ...init: Given<I>) =>
    answer<Result<P, "put">>(client.PUT<P, I>(path, ...init)),
  PATCH: <P extends Paths<"patch">, I extends Init<P, "patch">>(path: P, ...init: Given<I>) =>
    answer<Result<P, "patch">>(client.PATCH<P, I>(path, ...init)),
  DELETE: <P extends Paths<"delete">, I extends Init<P, "delete">>(path: P, ...init: Given<I>) =>
    answer<Result<P, "delete">>(client.DELETE<P, I>(path, ...init)),
};
