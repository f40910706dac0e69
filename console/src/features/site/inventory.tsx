import { useVirtualizer } from "@tanstack/react-virtual";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { get, type Listed, type PageRow, type ProblemError, query } from "../../api/client";
import { bytes, count, place, points } from "../../lib/words";
import { Address, Card, Chip, Skeleton, Trouble } from "../../ui/parts";
import { useSite } from "./context";
import { NoRun } from "./no-run";

const PART = 200;
const ROW_PX = 34;
const QUICK: [string, Record<string, string>][] = [
  ["all", {}],
  ["errors", { "status.ge": "400" }],
  ["redirects", { "status.ge": "300", "status.lt": "400" }],
  ["kept out", { state: "disallowed" }],
  ["critical", { "critical.gt": "0" }],
  ["few words", { "words.lt": "200" }],
];
const COLUMNS: {
  key: string;
  head: string;
  number?: boolean;
  cell: (r: PageRow, host: string, site: number) => React.ReactNode;
}[] = [
  {
    key: "url",
    head: "Address",
    cell: (r, host, site) => (
      <Link to={`/sites/${site}/page?url=${encodeURIComponent(r.url)}`}>
        <Address text={place(r.url, host)} chars={46} />
      </Link>
    ),
  },
  { key: "status", head: "Status", number: true, cell: (r) => r.status ?? r.state },
  { key: "title", head: "Title", cell: (r) => <span className="block truncate">{r.title}</span> },
  { key: "words", head: "Words", number: true, cell: (r) => count(r.words) },
  { key: "depth", head: "Clicks", number: true, cell: (r) => count(r.depth) },
  { key: "inlinks", head: "Links in", number: true, cell: (r) => count(r.inlinks) },
  { key: "decoded_bytes", head: "Size", number: true, cell: (r) => bytes(r.decoded_bytes) },
  { key: "health", head: "Health", number: true, cell: (r) => points(r.health) },
];
const GRID = "minmax(230px,1.4fr) 84px minmax(160px,1fr) 64px 56px 70px 84px 70px";

export function InventoryScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  if (!run) return <NoRun site={site} />;
  const filters = Object.fromEntries([...view.entries()].filter(([k]) => k !== "sort" && k !== "role"));
  const sort = view.get("sort") ?? "url";
  const role = view.get("role") ?? "page";
  const show = (next: Record<string, string>) =>
    setView({ ...next, ...(sort === "url" ? {} : { sort }), ...(role === "page" ? {} : { role }) }, { replace: true });
  const active = QUICK.find(([, f]) => JSON.stringify(f) === JSON.stringify(filters))?.[0];
  return (
    <Card
      title="Inventory"
      aside={
        <span className="flex flex-wrap items-center gap-1.5">
          {["page", "file", "external"].map((name) => (
            <Chip
              key={name}
              on={role === name}
              onClick={() => setView(name === "page" ? {} : { role: name }, { replace: true })}
            >
              {name === "external" ? "other sites" : `${name}s`}
            </Chip>
          ))}
          <span className="w-2" />
          {QUICK.map(([name, f]) => (
            <Chip key={name} on={active === name} onClick={() => show(f)}>
              {name}
            </Chip>
          ))}
          <Search value={view.get("url.has") ?? ""} onChange={(text) => show(text ? { "url.has": text } : {})} />
        </span>
      }
    >
      <Rows
        key={view.toString()}
        runId={run.id}
        filters={filters}
        sort={sort}
        role={role}
        onSort={(key) => setView({ ...Object.fromEntries(view), sort: key }, { replace: true })}
      />
    </Card>
  );
}

function Search({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  const [text, setText] = useState(value);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onChange(text);
      }}
    >
      <input
        aria-label="Address contains"
        placeholder="address contains…"
        className="border-line-strong bg-surface text-ink rounded-md border px-2 py-0.5"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
    </form>
  );
}

type RowsProps = {
  runId: string;
  filters: Record<string, string>;
  sort: string;
  role: string;
  onSort: (key: string) => void;
};

function Rows({ runId, filters, sort, role, onSort }: RowsProps) {
  const { site } = useSite();
  const parts = useInfiniteQuery<Listed<PageRow>, ProblemError>({
    queryKey: ["pages", runId, filters, sort, role],
    queryFn: ({ pageParam }) =>
      get(`/runs/${runId}/pages${query({ ...filters, sort, role, limit: PART, after: pageParam as number })}`),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.after ? Number(last.after) : undefined),
  });
  const scroller = useRef<HTMLDivElement>(null);
  const rows = parts.data?.pages.flatMap((p) => p.items) ?? [];
  const total = parts.data?.pages[0]?.total ?? 0;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const shown = virtual.getVirtualItems();
  const last = shown[shown.length - 1]?.index ?? 0;
  useEffect(() => {
    if (last >= rows.length - 20 && parts.hasNextPage && !parts.isFetchingNextPage) void parts.fetchNextPage();
  }, [last, rows.length, parts]);
  if (parts.error) return <Trouble error={parts.error} again={() => parts.refetch()} />;
  if (!parts.data) return <Skeleton rows={12} />;
  if (total === 0) return <p className="text-ink-3 py-2">Nothing like that in this run. Choose another filter.</p>;
  return (
    <>
      <p className="text-ink-3 mb-1 text-sm">{count(total)} addresses</p>
      <div
        ref={scroller}
        className="relative max-h-[62vh] overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="Inventory"
      >
        <div role="table" aria-rowcount={total} className="min-w-[900px]">
          <div
            role="row"
            className="bg-surface border-line-strong text-ink-3 sticky top-0 grid border-b text-sm"
            style={{ gridTemplateColumns: GRID }}
          >
            {COLUMNS.map((c) => (
              <span
                role="columnheader"
                key={c.key}
                aria-sort={sort === c.key ? "ascending" : sort === `-${c.key}` ? "descending" : "none"}
                className={`px-2 py-1 ${c.number ? "text-right" : ""}`}
              >
                <button type="button" onClick={() => onSort(sort === c.key ? `-${c.key}` : c.key)}>
                  {c.head}
                  {sort === c.key ? " ↑" : sort === `-${c.key}` ? " ↓" : ""}
                </button>
              </span>
            ))}
          </div>
          <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: "relative" }}>
            {shown.map((item) => {
              const row = rows[item.index] as PageRow;
              return (
                <div
                  role="row"
                  aria-rowindex={item.index + 2}
                  key={row.id}
                  className="border-line absolute inset-x-0 grid items-center border-b"
                  style={{ gridTemplateColumns: GRID, height: ROW_PX, top: item.start }}
                >
                  {COLUMNS.map((c) => (
                    <span
                      role="cell"
                      key={c.key}
                      className={`min-w-0 overflow-hidden px-2 whitespace-nowrap ${c.number ? "text-right" : ""}`}
                    >
                      {c.cell(row, site.host, site.id)}
                    </span>
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </>
  );
}
