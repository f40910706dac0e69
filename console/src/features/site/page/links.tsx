/** Links to and from a page, and the files it uses: rows of the inventory. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { inventory, type Listed } from "../../../api/queries/runs";
import type { InventoryRow } from "../../../api/types";
import { count, plural } from "../../../lib/words";
import { Loaded } from "../../../ui/state";
import { nextPart, Table } from "../../../ui/table";
import { useSite } from "../context";
import { Cell } from "../inventory-cells";

type Props = { url: string; runId: string };

const quoted = (text: string) => `"${text.replace(/\\/g, "\\\\").replace(/"/g, '\\"')}"`;
const FOLLOWABLE = 'kind in ("anchor", "image-link")';

export const LinksIn = ({ url, runId }: Props) => (
  <Links
    runId={runId}
    where={`target = ${quoted(url)}`}
    columns="source,text,kind,follow,rel,landmark,source_depth"
    empty="Nothing on the site links here."
  />
);

export const LinksOut = ({ url, runId }: Props) => (
  <Links
    runId={runId}
    where={`source = ${quoted(url)} and ${FOLLOWABLE}`}
    columns="number,target,status,text,follow,rel,landmark"
    empty="The page links to nothing."
  />
);

export const FilesOut = ({ url, runId }: Props) => (
  <Links
    runId={runId}
    where={`source = ${quoted(url)} and not ${FOLLOWABLE}`}
    columns="number,target,kind,status,target_bytes,text"
    empty="The page uses no files and names no other URL."
  />
);

function Links({ runId, where, columns, empty }: { runId: string; where: string; columns: string; empty: string }) {
  const { site } = useSite();
  const listed: Listed = { of: "link", where, columns, sort: "" };
  const known = useQuery(inventory.columns("link"));
  const parts = useInfiniteQuery(inventory.list(runId, listed));
  const byName = new Map((known.data ?? []).map((column) => [column.name, column]));
  const shown = columns.split(",").flatMap((name) => byName.get(name) ?? []);
  return (
    <Loaded query={parts} tall={6}>
      {(data) => {
        const total = data.pages[0]?.total ?? 0;
        return (
          <>
            <p className="text-ink-3 mb-1 text-sm">
              {plural(total, "reference")}
              {total > 0 && (
                <>
                  {" · "}
                  <Link to={`/sites/${site.id}/inventory?${new URLSearchParams({ of: "link", where, columns })}`}>
                    filter and export in the inventory
                  </Link>
                </>
              )}
            </p>
            <Table
              rows={shown.length ? data.pages.flatMap((part) => part.items) : []}
              id={(row) => row.id}
              caption={`${count(total)} references`}
              empty={total > 0 ? "" : empty}
              more={{ total, load: nextPart(parts) }}
              columns={shown.map((column) => ({
                head: column.label,
                number: column.kind === "number",
                cell: (row: InventoryRow) => (
                  <Cell value={row.values[column.name]} column={column} siteId={site.id} host={site.host} />
                ),
              }))}
            />
          </>
        );
      }}
    </Loaded>
  );
}
