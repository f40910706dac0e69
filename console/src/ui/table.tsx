/** The one table: sorting, a choice of columns, a selection of rows, and virtual rows when there are many. */
import {
  type ColumnDef,
  columnVisibilityFeature,
  createSortedRowModel,
  rowSelectionFeature,
  type RowSelectionState,
  rowSortingFeature,
  type SortingState,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { Tick, TickMenu } from "./controls";

export type Column<Row> = {
  head: string;
  /** The head is for those who cannot see; the column speaks for itself. */
  quiet?: boolean;
  cell: (row: Row) => ReactNode;
  number?: boolean;
  /** What rows are sorted by: the value of a row, or the name that the service sorts by. */
  sort?: ((row: Row) => number | string | null | undefined) | string;
  className?: string;
  /** What stands under the column, such as a sum. */
  foot?: ReactNode;
};

type Props<Row> = {
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  id: (row: Row) => string | number;
  empty: ReactNode;
  caption: string;
  /** Under this name the choice of columns is remembered; without it there is none. */
  name?: string;
  /** What stands beside the choice of columns, such as how many rows there are. */
  note?: ReactNode;
  /** The head that rows are sorted by, "-" before it for descending; kept by the caller, such as in the address. */
  sorted?: string;
  onSort?: (sorted: string) => void;
  marked?: (row: Row) => boolean;
  /** Heads are for those who cannot see: small figures that speak for themselves. */
  bare?: boolean;
  /** What can be done with the rows that are chosen; without it none can be chosen. */
  act?: (chosen: Row[], clear: () => void) => ReactNode;
  /** Rows that are there but not loaded yet. */
  more?: { total: number; load: () => void };
};

type Parts = { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };

/** Loads the next part of a list that comes in parts, one at a time. */
export const nextPart = (parts: Parts) => () => {
  if (parts.hasNextPage && !parts.isFetchingNextPage) void parts.fetchNextPage();
};

const MANY_ROWS = 120;
const ROW_PX = 36;
const OVERSCAN = 12;
const features = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  rowSelectionFeature,
  sortedRowModel: createSortedRowModel(),
});

export function Table<Row extends object>(props: Props<Row>) {
  if (props.rows.length === 0) return <p className="text-ink-3 py-2">{props.empty}</p>;
  return <Filled {...props} />;
}

function Filled<Row extends object>({
  rows,
  columns,
  id,
  caption,
  name,
  note,
  sorted,
  onSort,
  marked,
  bare,
  act,
  more,
}: Props<Row>) {
  const [own, setOwn] = useState("");
  const [hidden, setHidden] = useHidden(name);
  const [rowSelection, setRowSelection] = useState<RowSelectionState>({});
  const order = sorted ?? own;
  const byHead = new Map(columns.map((c) => [c.head, c]));
  const sorting: SortingState = [{ id: order.replace(/^-/, ""), desc: order.startsWith("-") }].filter((s) =>
    byHead.has(s.id),
  );
  const data = useMemo(() => [...rows], [rows]);
  const definitions: ColumnDef<typeof features, Row>[] = columns.map((column) => {
    const value = column.sort;
    return typeof value === "function"
      ? { id: column.head, accessorFn: (row: Row) => value(row) ?? undefined, sortUndefined: "last", sortFn: compare }
      : { id: column.head };
  });
  const table = useTable({
    features,
    columns: definitions,
    data,
    getRowId: (row) => String(id(row)),
    manualSorting: columns.some((c) => typeof c.sort === "string"),
    state: { sorting, rowSelection, columnVisibility: Object.fromEntries(hidden.map((head) => [head, false])) },
    onRowSelectionChange: setRowSelection,
  });
  const shown = columns.filter((c) => !hidden.includes(c.head));
  const lines = table.getRowModel().rows;
  const scroller = useRef<HTMLDivElement>(null);
  const many = lines.length > MANY_ROWS;
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is read only in this component
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: OVERSCAN,
    enabled: many,
  });
  const items = virtual.getVirtualItems();
  const last = many ? (items.at(-1)?.index ?? 0) : lines.length - 1;
  const wanting = more !== undefined && lines.length < more.total && last >= lines.length - OVERSCAN;
  const load = more?.load;
  useEffect(() => {
    if (wanting) load?.();
  }, [wanting, load, lines.length]);
  const [before, after] = many ? [items[0]?.start ?? 0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)] : [0, 0];
  const chosen = act ? table.getSelectedRowModel().rows.map((r) => r.original) : [];
  return (
    <>
      {(name || chosen.length > 0) && (
        <div className="mb-1.5 flex min-h-7 flex-wrap items-center justify-between gap-2">
          <div className="flex items-center gap-3">
            {chosen.length === 0 && <span className="text-ink-3 text-sm">{note}</span>}
            {chosen.length > 0 && (
              <>
                <span role="status">{chosen.length} chosen</span>
                {act?.(chosen, () => table.resetRowSelection(true))}
              </>
            )}
          </div>
          {name && (
            <TickMenu
              label="Columns"
              items={columns
                .filter((c) => !c.quiet)
                .map((c) => ({ id: c.head, label: c.head, on: !hidden.includes(c.head) }))}
              onChange={(head, on) => setHidden(on ? hidden.filter((h) => h !== head) : [...hidden, head])}
            />
          )}
        </div>
      )}
      <div
        ref={scroller}
        className={`relative overflow-x-auto ${many ? "max-h-[66vh] overflow-y-auto" : ""}`}
        tabIndex={0}
        role="region"
        aria-label={caption}
      >
        <table
          className="w-full border-collapse"
          aria-rowcount={many || more ? (more?.total ?? lines.length) + 1 : undefined}
        >
          <caption className="sr-only">{caption}</caption>
          <thead className={bare ? "sr-only" : many ? "bg-surface sticky top-0 z-10" : ""}>
            <tr className="border-line-strong text-ink-3 border-b text-left text-sm">
              {act && (
                <th scope="col" className="w-7 px-2 py-1.25">
                  <Tick
                    label="Choose all"
                    checked={table.getIsAllRowsSelected() || (table.getIsSomeRowsSelected() && "indeterminate")}
                    onChange={(on) => table.toggleAllRowsSelected(on)}
                  />
                </th>
              )}
              {shown.map((column) => (
                <th
                  key={column.head}
                  scope="col"
                  className={`px-2 py-1.25 font-medium whitespace-nowrap ${column.number ? "text-right" : ""} ${column.className ?? ""}`}
                  aria-sort={direction(column, order)}
                >
                  {column.sort ? (
                    <SortHead column={column} order={order} onSort={onSort ?? setOwn} />
                  ) : (
                    <span className={column.quiet ? "sr-only" : ""}>{column.head}</span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <Spacer px={before} />
            {(many
              ? items.map((i) => ({ line: lines[i.index], index: i.index }))
              : lines.map((line, index) => ({ line, index }))
            ).map(
              ({ line, index }) =>
                line && (
                  <tr
                    key={line.id}
                    ref={many ? virtual.measureElement : undefined}
                    data-index={index}
                    aria-rowindex={many || more ? index + 2 : undefined}
                    className={`border-line border-b last:border-b-0 ${marked?.(line.original) || line.getIsSelected() ? "bg-accent-soft" : ""}`}
                  >
                    {act && (
                      <td className="px-2 py-1.5 align-top">
                        <Tick
                          label={`Choose row ${index + 1}`}
                          checked={line.getIsSelected()}
                          onChange={(on) => line.toggleSelected(on)}
                        />
                      </td>
                    )}
                    {shown.map((column) => (
                      <td
                        key={column.head}
                        className={`px-2 py-1.5 ${bare ? "align-middle" : "align-top"} ${column.number ? "text-right whitespace-nowrap" : ""} ${column.className ?? ""}`}
                      >
                        {column.cell(line.original)}
                      </td>
                    ))}
                  </tr>
                ),
            )}
            <Spacer px={after} />
          </tbody>
          {shown.some((column) => column.foot !== undefined) && (
            <tfoot className={many ? "bg-surface sticky bottom-0 z-10" : ""}>
              <tr className="border-line-strong text-ink-2 border-t">
                {act && <td />}
                {shown.map((column) => (
                  <td
                    key={column.head}
                    className={`px-2 py-1.25 text-sm whitespace-nowrap ${column.number ? "text-right" : ""}`}
                  >
                    {column.foot}
                  </td>
                ))}
              </tr>
            </tfoot>
          )}
        </table>
      </div>
    </>
  );
}

/** Room for the rows above and below those that are drawn. */
function Spacer({ px }: { px: number }) {
  return px > 0 ? (
    <tr aria-hidden="true">
      <td style={{ height: px }} />
    </tr>
  ) : null;
}

type Line = { getValue: <T>(column: string) => T };

/** Figures by size, words as a dictionary does; rows without a value come last either way. */
function compare(a: Line, b: Line, column: string): number {
  const [x, y] = [a.getValue<number | string>(column), b.getValue<number | string>(column)];
  return typeof x === "number" && typeof y === "number"
    ? x - y
    : String(x).localeCompare(String(y), "en-GB", { numeric: true });
}

function direction<Row>(column: Column<Row>, order: string) {
  if (!column.sort) return undefined;
  return order === column.head ? "ascending" : order === `-${column.head}` ? "descending" : "none";
}

function SortHead<Row>({
  column,
  order,
  onSort,
}: {
  column: Column<Row>;
  order: string;
  onSort: (order: string) => void;
}) {
  const { head } = column;
  const first = column.number ? `-${head}` : head;
  const next = order === head ? `-${head}` : order === `-${head}` ? head : first;
  return (
    <button type="button" className="hover:text-ink font-medium" onClick={() => onSort(next)}>
      {head}
      <span aria-hidden="true">{order === head ? " ↑" : order === `-${head}` ? " ↓" : ""}</span>
    </button>
  );
}

/** The heads that somebody put away, remembered in the browser. */
function useHidden(name: string | undefined) {
  const key = name && `hodcarrier.columns.${name}`;
  const [hidden, setHidden] = useState<string[]>(() => {
    const kept = key ? localStorage.getItem(key) : null;
    return kept ? kept.split("\n").filter(Boolean) : [];
  });
  const set = (heads: string[]) => {
    setHidden(heads);
    if (key) localStorage.setItem(key, heads.join("\n"));
  };
  return [hidden, set] as const;
}
