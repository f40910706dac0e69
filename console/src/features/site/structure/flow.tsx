/** How links flow through the site: the pages that get most and least of it, hubs, groups apart from the rest, and click depth. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import { inventory, type Listed } from "../../../api/queries/runs";
import type { InventoryRow, Run, Site } from "../../../api/types";
import { count, place, plural, points } from "../../../lib/words";
import { SearchInput, Segments } from "../../../ui/controls";
import { Address, Card } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { Table } from "../../../ui/table";
import { SpreadBars } from "../spread";

type Which = "most" | "least" | "hubs" | "apart";
const COLUMNS = "url,title,link_flow,inlinks,links_out,depth";
const LISTS: Record<Which, { label: string; where: string; sort: string; empty: string }> = {
  most: { label: "get most", where: "indexable", sort: "-link_flow", empty: "No indexable pages." },
  least: { label: "get least", where: "indexable", sort: "link_flow", empty: "No indexable pages." },
  hubs: { label: "hubs", where: "links_out > 0", sort: "-links_out", empty: "No page links to another." },
  apart: {
    label: "apart from the rest",
    where: "link_group > 1",
    sort: "link_group",
    empty: "Links join all pages of the site.",
  },
};
const ROWS = 10;
const FOUND = 8;

export function Flow({ site, run }: { site: Site; run: Run }) {
  const [which, setWhich] = useState<Which>("most");
  const list = LISTS[which];
  const listed: Listed = { of: "page", where: list.where, columns: COLUMNS, sort: list.sort };
  const found = useInfiniteQuery(inventory.list(run.id, listed));
  return (
    <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[1.9fr_1fr]">
      <Card
        title="How links flow"
        aside={
          <Segments
            label="Which pages"
            value={which}
            onChange={setWhich}
            choices={(Object.keys(LISTS) as Which[]).map((value) => ({ value, label: LISTS[value].label }))}
          />
        }
      >
        <Loaded query={found} tall={10}>
          {(data) => {
            const total = data.pages[0]?.total ?? 0;
            return (
              <>
                <p className="text-ink-3 mb-1 text-sm">
                  Link flow is what reaches a page over the links of the site; 1 is the average page.{" "}
                  <Link
                    to={`/sites/${site.id}/inventory?${new URLSearchParams({ where: list.where, sort: list.sort, columns: COLUMNS })}`}
                  >
                    {plural(total, "page")} in the inventory
                  </Link>
                </p>
                <Table
                  rows={data.pages[0]?.items.slice(0, ROWS) ?? []}
                  id={(row) => row.id}
                  caption="Pages by how links flow"
                  empty={list.empty}
                  columns={[
                    { head: "Page", cell: (row) => <PageLink site={site} row={row} /> },
                    { head: "Link flow", number: true, cell: (row) => points(row.values.link_flow as number | null) },
                    { head: "Links in", number: true, cell: (row) => count(row.values.inlinks as number | null) },
                    { head: "Links out", number: true, cell: (row) => count(row.values.links_out as number | null) },
                    { head: "Depth", number: true, cell: (row) => count(row.values.depth as number | null) },
                  ]}
                />
              </>
            );
          }}
        </Loaded>
      </Card>
      <div className="space-y-3.5">
        <Depths site={site} run={run} />
        <WayTo site={site} run={run} />
      </div>
    </div>
  );
}

function PageLink({ site, row }: { site: Site; row: InventoryRow }) {
  return (
    <>
      <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(String(row.values.url))}`}>
        <Address text={place(String(row.values.url), site.host)} chars={60} />
      </Link>
      <span className="text-ink-3 block max-w-48 truncate text-sm sm:max-w-100">{row.values.title}</span>
    </>
  );
}

function Depths({ site, run }: { site: Site; run: Run }) {
  const go = useNavigate();
  const columns = useQuery(inventory.columns("page")).data ?? [];
  const figures = useQuery(
    inventory.figures(run.id, { of: "page", where: "status = 200", columns: "depth", by: "depth" }),
  );
  const column = columns.find((each) => each.name === "depth");
  return (
    <Card title="Clicks from the start page">
      <Loaded query={figures} tall={6}>
        {(data) => {
          const spread = data.spreads[0];
          return (
            spread &&
            column && (
              <SpreadBars
                spread={spread}
                column={column}
                onChoose={(where) =>
                  void go(
                    `/sites/${site.id}/inventory?${new URLSearchParams({ where: `status = 200 and ${where}`, sort: "-depth" })}`,
                  )
                }
              />
            )
          );
        }}
      </Loaded>
    </Card>
  );
}

/** The way of clicks to a page that somebody asks for. */
function WayTo({ site, run }: { site: Site; run: Run }) {
  const [typed, setTyped] = useState("");
  const term = useDeferredValue(typed.trim().replace(/["\\]/g, ""));
  const listed: Listed = { of: "page", where: `url contains "${term}"`, columns: "url,depth", sort: "depth" };
  const found = useInfiniteQuery({ ...inventory.list(run.id, listed), enabled: term !== "" });
  const rows = term ? (found.data?.pages[0]?.items ?? []) : [];
  return (
    <Card title="The shortest way to a page">
      <SearchInput label="A part of its URL" value={typed} onChange={setTyped} />
      {term !== "" && found.data && rows.length === 0 && <p className="text-ink-3 mt-1.5">No URL contains this.</p>}
      <ul className="mt-1.5">
        {rows.slice(0, FOUND).map((row) => (
          <li key={row.id} className="flex justify-between gap-3 py-0.5">
            <Link to={`/sites/${site.id}/page?tab=way&url=${encodeURIComponent(String(row.values.url))}`}>
              <Address text={place(String(row.values.url), site.host)} chars={44} />
            </Link>
            <span className="text-ink-3 text-sm whitespace-nowrap">
              {row.values.depth === null ? "no way" : plural(Number(row.values.depth), "click")}
            </span>
          </li>
        ))}
      </ul>
    </Card>
  );
}
