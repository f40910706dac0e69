/** Bricks of every screen: cards, tables, buttons, states. No product words. */
import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode } from "react";
import type { UseQueryResult } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { ProblemError } from "../api/client";
import { shorten } from "../lib/words";

export function Card({
  title,
  aside,
  children,
  className = "",
}: {
  title?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section className={`bg-surface border-line min-w-0 rounded-md border px-3.5 py-3 ${className}`}>
      {(title || aside) && (
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-3">
          {title && <h2 className="text-base font-semibold">{title}</h2>}
          {aside && <div className="text-ink-3 text-sm">{aside}</div>}
        </div>
      )}
      {children}
    </section>
  );
}

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { main?: boolean };
export const buttonClass = (main?: boolean) =>
  `inline-flex items-center gap-1.5 rounded-md border px-2.75 py-1.25 whitespace-nowrap no-underline hover:no-underline ${
    main
      ? "border-accent bg-accent text-accent-ink hover:opacity-90"
      : "border-line-strong bg-surface text-ink hover:bg-sunk"
  }`;

export function Button({ main, className = "", ...rest }: ButtonProps) {
  return <button type="button" className={`${buttonClass(main)} ${className}`} {...rest} />;
}

export function LinkButton(props: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button type="button" className="text-accent whitespace-nowrap hover:underline disabled:no-underline" {...props} />
  );
}

export type Column<Row> = {
  head: ReactNode;
  cell: (row: Row) => ReactNode;
  number?: boolean;
  sort?: string;
  className?: string;
};

type TableProps<Row> = {
  rows: Row[];
  columns: Column<Row>[];
  id: (row: Row) => string | number;
  empty: ReactNode;
  caption: string;
  sorted?: string;
  onSort?: (key: string) => void;
  marked?: (row: Row) => boolean;
};

export function Table<Row>({ rows, columns, id, empty, caption, sorted, onSort, marked }: TableProps<Row>) {
  if (rows.length === 0) return <p className="text-ink-3 py-2">{empty}</p>;
  return (
    <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={caption}>
      <table className="w-full border-collapse">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="border-line-strong text-ink-3 border-b text-left text-sm">
            {columns.map((column, i) => (
              <th
                key={i}
                scope="col"
                className={`px-2 py-1.25 font-medium whitespace-nowrap ${column.number ? "text-right" : ""}`}
                aria-sort={ariaSort(column.sort, sorted)}
              >
                {column.sort && onSort ? <SortHead column={column} sorted={sorted} onSort={onSort} /> : column.head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={id(row)}
              className={`border-line border-b last:border-b-0 ${marked?.(row) ? "bg-accent-soft" : ""}`}
            >
              {columns.map((column, i) => (
                <td
                  key={i}
                  className={`px-2 py-1.5 align-top ${column.number ? "text-right whitespace-nowrap" : ""} ${column.className ?? ""}`}
                >
                  {column.cell(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function ariaSort(key: string | undefined, sorted: string | undefined) {
  if (!key || !sorted) return undefined;
  return sorted === key ? "ascending" : sorted === `-${key}` ? "descending" : undefined;
}

function SortHead<Row>({
  column,
  sorted,
  onSort,
}: {
  column: Column<Row>;
  sorted?: string;
  onSort: (key: string) => void;
}) {
  const key = column.sort as string;
  const next = sorted === `-${key}` ? key : sorted === key ? `-${key}` : column.number ? `-${key}` : key;
  return (
    <button type="button" className="hover:text-ink font-medium" onClick={() => onSort(next)}>
      {column.head}
      <span aria-hidden="true">{sorted === key ? " ↑" : sorted === `-${key}` ? " ↓" : ""}</span>
    </button>
  );
}

/** One of the four states of what is read: loading, error, or the content. */
export function Loaded<T>({
  query,
  children,
  tall = 6,
}: {
  query: UseQueryResult<T, ProblemError>;
  children: (data: T) => ReactNode;
  tall?: number;
}) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.error) return <Trouble error={query.error} again={() => query.refetch()} />;
  return <Skeleton rows={tall} />;
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

export function Trouble({ error, again }: { error: ProblemError; again?: () => void }) {
  return (
    <div role="alert" className="bg-clay-soft border-line rounded-md border px-3.5 py-2.5">
      <p>
        <b className="font-semibold">{error.detail}</b> {error.hint}
      </p>
      {again && error.status !== 403 && error.status !== 404 && <LinkButton onClick={again}>Try again</LinkButton>}
    </div>
  );
}

/** A long text cut in the middle, whole on hover and for screen readers. */
export function Address({ text, chars = 60, className = "" }: { text: string; chars?: number; className?: string }) {
  const short = shorten(text, chars);
  const shown = <span className={`font-mono text-sm wrap-anywhere ${className}`}>{short}</span>;
  if (short === text) return shown;
  return <Hint text={text}>{shown}</Hint>;
}

export function Hint({ text, children }: { text: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="bg-ink text-paper z-50 max-w-lg rounded-md px-2 py-1 text-sm break-all"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export function Chip({ on, children, ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { on?: boolean }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`rounded-full border px-2.25 py-px text-sm ${on ? "border-accent bg-accent-soft text-accent" : "border-line-strong bg-surface text-ink-2"}`}
      {...rest}
    >
      {children}
    </button>
  );
}

const fieldClass =
  "disabled:bg-sunk disabled:text-ink-3 border-line-strong bg-surface text-ink w-full rounded-md border px-2.5 py-1.25";
export function Field({
  label,
  hint,
  wrong,
  children,
}: {
  label: string;
  hint?: ReactNode;
  wrong?: string;
  children: (className: string) => ReactNode;
}) {
  return (
    <label className="block">
      <span className="text-ink-2 mb-0.5 block text-sm font-medium">{label}</span>
      {children(wrong ? fieldClass.replace("border-line-strong", "border-bad") : fieldClass)}
      {wrong && <span className="text-bad mt-0.5 block text-sm">{wrong}</span>}
      {hint && <span className="text-ink-3 mt-0.5 block text-sm">{hint}</span>}
    </label>
  );
}

/** A switch with its label beside it. */
export function Tick({
  label,
  hint,
  ...rest
}: { label: string; hint?: ReactNode } & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <label className="grid grid-cols-[auto_1fr] content-start items-baseline gap-x-2">
      <input type="checkbox" className="size-4 translate-y-0.5" {...rest} />
      <span className="text-ink-2 text-sm font-medium">{label}</span>
      {hint && <span className="text-ink-3 col-start-2 text-sm">{hint}</span>}
    </label>
  );
}

export function Heading({ over, title, children }: { over?: ReactNode; title: ReactNode; children?: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
      <div className="min-w-0">
        {over && <div className="text-ink-3 text-sm">{over}</div>}
        <h1 className="text-[20px] leading-7 font-semibold break-words">{title}</h1>
      </div>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </div>
  );
}
