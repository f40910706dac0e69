/** Links from other sites: what is there, what is new, what was lost, and what leads to pages that are gone. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { figures } from "../../api/queries/figures";
import type { BacklinkState, Site } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, day, place, plural } from "../../lib/words";
import { SearchInput } from "../../ui/controls";
import { Address, Card, Chip } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";
import { Tables } from "../../ui/tables";
import { NothingYet } from "./nothing";

const STATES: readonly { value: BacklinkState; label: string; empty: string }[] = [
  { value: "live", label: "There", empty: "No link like this is there." },
  { value: "new", label: "New", empty: "No new link in these weeks." },
  { value: "lost", label: "Lost", empty: "No link was lost in these weeks." },
  { value: "to-gone", label: "To pages that are gone", empty: "No link leads to a page that is gone." },
  { value: "win-back", label: "Lost, to pages that are gone", empty: "No lost link led to a page that is gone." },
];

export function Backlinks({ site }: { site: Site }) {
  const [view, set] = useAddress();
  const shown = STATES.find((each) => each.value === view.get("state")) ?? STATES[0]!;
  const text = view.get("text") ?? "";
  const parts = useInfiniteQuery(figures.backlinks(site.id, { state: shown.value, text }));
  return (
    <Loaded query={parts} tall={12}>
      {(data) => {
        const found = data.pages[0];
        if (!found?.since)
          return (
            <NothingYet title="No links from other sites yet">
              Who links to {site.host} comes from a table with the linking page and the page it leads to, and where
              known the days on which a link was first seen, last seen and lost.
            </NothingYet>
          );
        const domains = found.domains ?? {};
        return (
          <>
            <p className="mb-2">
              {plural(domains.live ?? 0, "domain")} link here. Since {day(found.since)}, {count(domains.new)} are new
              and {count(domains.lost)} were lost.
            </p>
            <div className="mb-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Links">
              {STATES.map((each) => (
                <Chip
                  key={each.value}
                  on={each.value === shown.value}
                  onClick={() => set("state", each.value === "live" ? "" : each.value)}
                >
                  {each.label} {count(found.counts?.[each.value] ?? 0)}
                </Chip>
              ))}
              <SearchInput label="Search links" value={text} onChange={(value) => set("text", value)} />
              <span className="ml-auto">
                <Tables from={`/sites/${site.id}/backlinks/export`} asked={{ state: shown.value, text }} />
              </span>
            </div>
            <Card>
              <Table
                rows={data.pages.flatMap((part) => part.items ?? [])}
                id={(row) => `${row.source_page}\n${row.page}`}
                caption="Links from other sites"
                empty={shown.empty}
                more={{ total: found.total ?? 0, load: nextPart(parts) }}
                note={plural(found.total ?? 0, "link")}
                columns={[
                  { head: "From", className: "wrap-anywhere", cell: (row) => <Address text={row.source_page} /> },
                  { head: "To", className: "wrap-anywhere", cell: (row) => place(row.page, site.host) },
                  { head: "Status", number: true, cell: (row) => row.status ?? "–" },
                  { head: "Text", className: "wrap-anywhere", cell: (row) => row.anchor || "–" },
                  { head: "rel", cell: (row) => row.rel || "–" },
                  { head: "First seen", cell: (row) => day(row.first_seen) },
                  { head: "Last seen", cell: (row) => day(row.last_seen) },
                  { head: "Lost", cell: (row) => day(row.lost_on) },
                ]}
              />
            </Card>
          </>
        );
      }}
    </Loaded>
  );
}
