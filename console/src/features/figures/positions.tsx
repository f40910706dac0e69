/** Where the site stands for its keywords: now, before, at best, and who stands above. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { figures, type PositionsAsked } from "../../api/queries/figures";
import type { Positions as Found, PositionRow, Site } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, day, place, plural } from "../../lib/words";
import { SearchInput, Segments } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";
import { Tables } from "../../ui/tables";
import { NothingYet } from "./nothing";
import { OneOf } from "./periods";

export function Positions({ site }: { site: Site }) {
  const [view, set] = useAddress();
  const asked: PositionsAsked = {
    device: view.get("device") ?? "",
    place: view.get("place") ?? "",
    text: view.get("text") ?? "",
    moved: view.get("moved") === "yes",
  };
  const parts = useInfiniteQuery(figures.positions(site.id, asked));
  return (
    <Loaded query={parts} tall={12}>
      {(data) => {
        const found = data.pages[0];
        if (!found?.last)
          return (
            <NothingYet title="No positions yet">
              Where {site.host} stands for a keyword, on a device and from a place, comes from a table with days,
              keywords and positions; those of competitors may stand in it too.
            </NothingYet>
          );
        return (
          <>
            <div className="mb-3.5 flex flex-wrap items-end gap-3">
              <Segments
                label="Keywords"
                value={asked.moved ? "moved" : "all"}
                onChange={(name) => set("moved", name === "moved" ? "yes" : "")}
                choices={[
                  { value: "all", label: "All" },
                  { value: "moved", label: "Moved" },
                ]}
              />
              <OneOf
                label="Device"
                value={asked.device}
                names={found.devices ?? []}
                all="all devices"
                set={(v) => set("device", v)}
              />
              <OneOf
                label="From"
                value={asked.place}
                names={found.places ?? []}
                all="all places"
                set={(v) => set("place", v)}
              />
              <SearchInput label="Search keywords" value={asked.text} onChange={(value) => set("text", value)} />
              <span className="ml-auto">
                <Tables from={`/sites/${site.id}/positions/export`} asked={asked} />
              </span>
            </div>
            <Bands found={found} />
            <Card>
              <Table
                rows={data.pages.flatMap((part) => part.items ?? [])}
                id={(row) => [row.keyword, row.device, row.place].join("\n")}
                caption="Keywords with their positions"
                empty="No keyword like this has a position."
                more={{ total: found.total ?? 0, load: nextPart(parts) }}
                note={plural(found.total ?? 0, "position")}
                columns={[
                  {
                    head: "Keyword",
                    className: "wrap-anywhere",
                    cell: (row) => (
                      <>
                        {row.keyword}{" "}
                        <span className="text-ink-3 text-sm">{[row.device, row.place].filter(Boolean).join(", ")}</span>
                      </>
                    ),
                  },
                  {
                    head: "Position",
                    number: true,
                    cell: (row) => row.rank ?? <span className="text-ink-3">not found</span>,
                  },
                  { head: "Before", number: true, cell: (row) => row.before ?? "–" },
                  { head: "Change", cell: (row) => <Moved row={row} /> },
                  {
                    head: "Best",
                    className: "whitespace-nowrap",
                    cell: (row) => (row.best ? `${row.best}, ${day(row.best_on)}` : "–"),
                  },
                  {
                    head: "Page",
                    className: "wrap-anywhere",
                    cell: (row) =>
                      row.page ? (
                        <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(row.page)}`}>
                          {place(row.page, site.host)}
                        </Link>
                      ) : (
                        "–"
                      ),
                  },
                  {
                    head: "Above",
                    className: "wrap-anywhere",
                    cell: (row) => (row.above ?? []).map((each) => `${each.host} ${each.rank}`).join(", ") || "–",
                  },
                ]}
              />
            </Card>
          </>
        );
      }}
    </Loaded>
  );
}

function Moved({ row }: { row: PositionRow }) {
  const change = row.change;
  if (change === null || change === undefined)
    return row.before && !row.rank ? <span className="text-bad">▼ lost</span> : <span className="text-ink-3">–</span>;
  if (change === 0) return <span className="text-ink-3">level</span>;
  return change > 0 ? (
    <span className="text-good whitespace-nowrap">▲ {change} up</span>
  ) : (
    <span className="text-bad whitespace-nowrap">▼ {-change} down</span>
  );
}

/** How positions are spread, now and before. */
function Bands({ found }: { found: Found }) {
  return (
    <Card className="mb-3.5" title={`${day(found.first)} to ${day(found.last)}`} aside="against the last look before">
      <dl className="flex flex-wrap gap-x-8 gap-y-2">
        {(found.bands ?? []).map((band) => (
          <div key={band.band}>
            <dt className="text-ink-3 text-sm">{band.band}</dt>
            <dd className="tabular-nums">
              <span className="text-lg font-semibold">{count(band.now)}</span>{" "}
              <span className="text-ink-3 text-sm">before {count(band.before)}</span>
            </dd>
          </div>
        ))}
      </dl>
    </Card>
  );
}
