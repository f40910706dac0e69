import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { pages } from "../../api/queries/runs";
import type { AddressRole, PageRow, Site } from "../../api/types";
import { bytes, count, place, points } from "../../lib/words";
import { controlClass } from "../../ui/controls";
import { Address, Card, Chip } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { useSite } from "./context";
import { NoRun } from "./no-run";

const ROLES: readonly AddressRole[] = ["page", "file", "external"];
const QUICK: [string, Record<string, string>][] = [
  ["all", {}],
  ["errors", { "status.ge": "400" }],
  ["redirects", { "status.ge": "300", "status.lt": "400" }],
  ["blocked", { state: "disallowed" }],
  ["critical", { "critical.gt": "0" }],
  ["few words", { "words.lt": "200" }],
];
const columns = (site: Site): Column<PageRow>[] => [
  {
    head: "URL",
    sort: "url",
    className: "min-w-56",
    cell: (r) => (
      <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(r.url)}`}>
        <Address text={place(r.url, site.host)} chars={46} />
      </Link>
    ),
  },
  {
    head: "Status",
    sort: "status",
    number: true,
    cell: (r) => r.status ?? (r.state === "disallowed" ? "blocked" : r.state),
  },
  {
    head: "Title",
    sort: "title",
    className: "max-w-64 min-w-40",
    cell: (r) => <span className="block truncate">{r.title}</span>,
  },
  { head: "Words", sort: "words", number: true, cell: (r) => count(r.words) },
  { head: "Click depth", sort: "depth", number: true, cell: (r) => count(r.depth) },
  { head: "Links in", sort: "inlinks", number: true, cell: (r) => count(r.inlinks) },
  { head: "Size", sort: "decoded_bytes", number: true, cell: (r) => bytes(r.decoded_bytes) },
  {
    head: "First byte",
    sort: "first_byte_ms",
    number: true,
    cell: (r) => (r.first_byte_ms ? `${points(r.first_byte_ms)} ms` : "–"),
  },
  { head: "Health", sort: "health", number: true, cell: (r) => points(r.health) },
];

export function InventoryScreen() {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  if (!run) return <NoRun site={site} />;
  const filters = Object.fromEntries([...view.entries()].filter(([k]) => k !== "sort" && k !== "role"));
  const sort = view.get("sort") ?? "url";
  const role = ROLES.find((name) => name === view.get("role")) ?? "page";
  const show = (next: Record<string, string>) =>
    setView({ ...next, ...(sort === "url" ? {} : { sort }), ...(role === "page" ? {} : { role }) }, { replace: true });
  const active = QUICK.find(([, f]) => JSON.stringify(f) === JSON.stringify(filters))?.[0];
  return (
    <Card
      title="Inventory"
      aside={
        <span className="flex flex-wrap items-center gap-1.5">
          {ROLES.map((name) => (
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
          <Search
            key={view.get("url.has")}
            value={view.get("url.has") ?? ""}
            onChange={(text) => show(text ? { "url.has": text } : {})}
          />
        </span>
      }
    >
      <Rows
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
        aria-label="URL contains"
        placeholder="URL contains…"
        className={`${controlClass} !py-0.5`}
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
  role: AddressRole;
  onSort: (sort: string) => void;
};

function Rows({ runId, filters, sort, role, onSort }: RowsProps) {
  const { site } = useSite();
  const parts = useInfiniteQuery(pages.list(runId, filters, sort, role));
  const shown = columns(site);
  // The table knows columns by their heads, the service by its own names.
  const [head, descending] = [shown.find((c) => c.sort === sort.replace("-", ""))?.head, sort.startsWith("-")];
  const sortBy = (order: string) => {
    const column = shown.find((c) => c.head === order.replace(/^-/, ""));
    if (typeof column?.sort === "string") onSort((order.startsWith("-") ? "-" : "") + column.sort);
  };
  return (
    <Loaded query={parts} tall={12}>
      {(data) => {
        const total = data.pages[0]?.total ?? 0;
        return (
          <>
            <Table
              rows={data.pages.flatMap((part) => part.items)}
              columns={shown}
              id={(r) => r.id}
              name="inventory"
              note={`${count(total)} addresses`}
              caption="Inventory"
              empty="Nothing in this run matches. Change the filter."
              sorted={head && (descending ? `-${head}` : head)}
              onSort={sortBy}
              more={{
                total,
                load: nextPart(parts),
              }}
            />
          </>
        );
      }}
    </Loaded>
  );
}
