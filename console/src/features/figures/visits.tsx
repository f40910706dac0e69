/** Visits by page and by channel in whole weeks, against the weeks before. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { figures, type VisitsAsked } from "../../api/queries/figures";
import type { Site, VisitRow, VisitView, Visits as Found } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, plural, points } from "../../lib/words";
import { SearchInput, Segments } from "../../ui/controls";
import { Card, Chip } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { Tables } from "../../ui/tables";
import { DayByDay } from "./chart";
import { NothingYet } from "./nothing";
import { PageLink } from "./page-link";
import { Moved, OneOf, PeriodSums, sortName, Weeks, weeksIn } from "./periods";

const VIEWS: readonly { value: VisitView; label: string }[] = [
  { value: "all", label: "All" },
  { value: "rising", label: "Rising" },
  { value: "at-risk", label: "At risk" },
];
const SORTED: Record<string, string> = {
  Visits: "visits",
  Before: "before",
  Change: "change",
  Engaged: "engaged",
  Conversions: "conversions",
};
const USUAL: Record<VisitView, string> = { all: "-Visits", rising: "-Change", "at-risk": "Change" };
/** A figure that may have decimals, without them where it is whole. */
const amount = (value: number | null | undefined) =>
  typeof value === "number" && !Number.isInteger(value) ? points(value) : count(value);

export function Visits({ site }: { site: Site }) {
  const [view, set] = useAddress();
  const shown = VIEWS.find((each) => each.value === view.get("view"))?.value ?? "all";
  const sort = view.get("sort") ?? "";
  const asked: VisitsAsked = {
    by: view.get("by") === "channel" ? "channel" : "page",
    view: shown,
    weeks: weeksIn(view),
    channel: view.get("channel") ?? "",
    text: view.get("text") ?? "",
    sort: sortName(SORTED, sort),
  };
  const parts = useInfiniteQuery(figures.visits(site.id, asked));
  return (
    <Loaded query={parts} tall={14}>
      {(data) => {
        const found = data.pages[0];
        if (!found?.first)
          return (
            <NothingYet title="No visits yet">
              How many people visit which pages of {site.host}, and from where, comes from a table or a feed with days,
              pages, channels and visits. Pages that nobody visits can then be told in the inventory.
            </NothingYet>
          );
        return (
          <>
            <Choices asked={asked} found={found} set={set} />
            <Sums found={found} />
            <div className="mb-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="View">
              {VIEWS.map((each) => (
                <Chip
                  key={each.value}
                  on={each.value === shown}
                  onClick={() => set("view", each.value === "all" ? "" : each.value)}
                >
                  {each.label} {count(found.counts?.[each.value] ?? 0)}
                </Chip>
              ))}
              <span className="ml-auto">
                <Tables from={`/sites/${site.id}/visits/export`} asked={asked} />
              </span>
            </div>
            <Card>
              <Table
                rows={data.pages.flatMap((part) => part.items ?? [])}
                id={(row) => row.text}
                caption={asked.by === "page" ? "Pages with visits" : "Channels that visits came by"}
                empty={shown === "all" ? "None like this was visited in this time." : "None that one could tell."}
                more={{ total: found.total ?? 0, load: nextPart(parts) }}
                note={plural(found.total ?? 0, "row")}
                sorted={sort || USUAL[shown]}
                onSort={(head) => set("sort", head)}
                columns={columns(asked, found, site)}
              />
              {shown !== "all" && <p className="text-ink-3 mt-2 text-sm">Told by {found.test}.</p>}
            </Card>
          </>
        );
      }}
    </Loaded>
  );
}

function Choices({ asked, found, set }: { asked: VisitsAsked; found: Found; set: ReturnType<typeof useAddress>[1] }) {
  return (
    <div className="mb-3.5 flex flex-wrap items-end gap-3">
      <Segments
        label="By"
        value={asked.by}
        onChange={(name) => set("by", name === "channel" ? name : "")}
        choices={[
          { value: "page", label: "Pages" },
          { value: "channel", label: "Channels" },
        ]}
      />
      <Weeks weeks={asked.weeks} set={set} />
      <OneOf
        label="Channel"
        all="all channels"
        value={asked.channel}
        names={found.channels ?? []}
        set={(value) => set("channel", value)}
      />
      <SearchInput
        label={asked.by === "page" ? "Search pages" : "Search channels"}
        value={asked.text}
        onChange={(value) => set("text", value)}
      />
    </div>
  );
}

function Sums({ found }: { found: Found }) {
  const { now, before } = found;
  const figures = [
    { name: "Visits", value: count(now?.sessions), was: count(before?.sessions) },
    { name: "Engaged", value: count(now?.engaged), was: count(before?.engaged) },
    { name: "Conversions", value: amount(now?.conversions), was: amount(before?.conversions) },
  ].filter((each) => each.value !== "–" || each.was !== "–");
  return (
    <PeriodSums found={found} figures={figures}>
      <DayByDay
        noun="Visits"
        found={found}
        days={(found.days ?? []).map((each) => ({ day: each.day, value: each.visits }))}
        sums={[now?.sessions ?? 0, before?.sessions ?? 0]}
      />
    </PeriodSums>
  );
}

function columns(asked: VisitsAsked, found: Found, site: Site): Column<VisitRow>[] {
  const has = (name: "engaged" | "conversions") =>
    typeof found.now?.[name] === "number" || typeof found.before?.[name] === "number";
  return [
    {
      head: asked.by === "page" ? "Page" : "Channel",
      className: "wrap-anywhere",
      cell: (row) => (asked.by === "page" ? <PageLink site={site} url={row.text} /> : row.text),
    },
    { head: "Visits", number: true, sort: "visits", cell: (row) => count(row.now.sessions) },
    { head: "Before", number: true, sort: "before", cell: (row) => count(row.before.sessions) },
    {
      head: "Change",
      sort: "change",
      cell: (row) => (
        <Moved now={row.now.sessions ?? 0} before={row.before.sessions ?? 0} movement={row.movement} noun="visits" />
      ),
    },
    ...(has("engaged")
      ? [{ head: "Engaged", number: true, sort: "engaged", cell: (row: VisitRow) => count(row.now.engaged) }]
      : []),
    ...(has("conversions")
      ? [
          {
            head: "Conversions",
            number: true,
            sort: "conversions",
            cell: (row: VisitRow) => amount(row.now.conversions),
          },
        ]
      : []),
  ];
}
