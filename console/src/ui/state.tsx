/** The states of what is read: loading, trouble, the content, and the content that could not be read again. */
import type { ReactNode } from "react";
import { moment } from "../lib/words";
import { LinkButton } from "./parts";

/** What went wrong and what to do about it. */
export type Problem = { status: number; detail: string; hint: string; field?: string };

type Reading<T> = {
  data: T | undefined;
  error: Problem | null;
  dataUpdatedAt: number;
  refetch: () => unknown;
};

export function Loaded<T>({
  query,
  children,
  tall = 6,
}: {
  query: Reading<T>;
  children: (data: T) => ReactNode;
  tall?: number;
}) {
  const again = () => void query.refetch();
  if (query.data === undefined)
    return query.error ? <Trouble error={query.error} again={again} /> : <Skeleton rows={tall} />;
  return (
    <>
      {query.error && <Stale error={query.error} since={query.dataUpdatedAt} again={again} />}
      {children(query.data)}
    </>
  );
}

/** What is shown was read before; reading it again failed. */
export function Stale({ error, since, again }: { error: Problem; since: number; again: () => void }) {
  return (
    <p role="alert" className="bg-clay-soft mb-2 rounded-md px-3 py-1.5">
      {error.detail} {error.hint} What you see is as of {moment(new Date(since).toISOString())}.{" "}
      <LinkButton onClick={again}>Try again</LinkButton>
    </p>
  );
}

export function Skeleton({ rows }: { rows: number }) {
  return (
    <div aria-busy="true" aria-label="loading" className="space-y-2 py-2">
      {Array.from({ length: rows }, (_, i) => (
        <div key={i} className="bg-sunk h-4 animate-pulse rounded-sm" style={{ width: `${90 - (i % 4) * 14}%` }} />
      ))}
    </div>
  );
}

export function Trouble({ error, again }: { error: Problem; again?: () => void }) {
  return (
    <div role="alert" className="bg-clay-soft border-line rounded-md border px-3.5 py-2.5">
      <p>
        <b className="font-semibold">{error.detail}</b> {error.hint}
      </p>
      {again && error.status !== 403 && error.status !== 404 && <LinkButton onClick={again}>Try again</LinkButton>}
    </div>
  );
}
