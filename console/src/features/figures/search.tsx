/** What people look for, and how often they come from it: queries and pages in whole weeks, against the weeks before. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { figures, type SearchAsked } from "../../api/queries/figures";
import type { SearchFigures as Found, SearchRow, SearchView, Site } from "../../api/types";
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

const VIEWS: readonly { value: SearchView; label: string; words: string }[] = [
  { value: "all", label: "All", words: "" },
  { value: "rising", label: "Rising", words: "Clicks rose more than days differ anyway" },
  { value: "at-risk", label: "At risk", words: "Clicks fell more than days differ anyway" },
  { value: "near-top", label: "Near the top", words: "Positions 4 to 15, shown 100 times or more" },
  {
    value: "low-ctr",
    label: "Clicked less than usual",
    words: "The rate of clicks is below what is usual on this site at that position; brand queries are left out",
  },
];
const SORTED: Record<string, string> = {
  Clicks: "clicks",
  Before: "before",
  Impressions: "impressions",
  CTR: "ctr",
  Position: "position",
  Change: "change",
  "Clicks missed": "lost",
};
const USUAL: Record<SearchView, string> = {
  all: "-Clicks",
  rising: "-Change",
  "at-risk": "Change",
  "near-top": "-Impressions",
  "low-ctr": "-Clicks missed",
};
export function SearchFigures({ site }: { site: Site }) {
  const [view, set] = useAddress();
  const shown = VIEWS.find((each) => each.value === view.get("view"))?.value ?? "all";
  const sort = view.get("sort") ?? "";
  const asked: SearchAsked = {
    by: view.get("by") === "page" ? "page" : "query",
    view: shown,
    weeks: weeksIn(view),
    brand: view.get("brand") === "only" ? "only" : view.get("brand") === "without" ? "without" : "both",
    device: view.get("device") ?? "",
    country: view.get("country") ?? "",
    text: view.get("text") ?? "",
    sort: sortName(SORTED, sort),
  };
  const parts = useInfiniteQuery(figures.search(site.id, asked));
  return (
    <Loaded query={parts} tall={14}>
      {(data) => {
        const found = data.pages[0];
        if (!found?.first)
          return (
            <NothingYet title="No search figures yet">
              How often people find {site.host} and click, no crawl can know. It comes from a table with days, pages or
              queries, clicks and impressions, and is shown here against the weeks before.
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
                  title={each.words || undefined}
                  onClick={() => set("view", each.value === "all" ? "" : each.value)}
                >
                  {each.label} {count(found.counts?.[each.value] ?? 0)}
                </Chip>
              ))}
              <span className="ml-auto">
                <Tables from={`/sites/${site.id}/search-figures/export`} asked={asked} />
              </span>
            </div>
            <Card>
              <Table
                rows={data.pages.flatMap((part) => part.items ?? [])}
                id={(row) => row.text}
                caption={asked.by === "page" ? "Pages with search figures" : "Queries with search figures"}
                empty={emptyWords(shown, found)}
                more={{ total: found.total ?? 0, load: nextPart(parts) }}
                note={`${plural(found.total ?? 0, "row")}`}
                sorted={sort || USUAL[shown]}
                onSort={(head) => set("sort", head)}
                columns={columns(asked, site)}
              />
              {(shown === "rising" || shown === "at-risk") && (
                <p className="text-ink-3 mt-2 text-sm">Told by {found.test}.</p>
              )}
            </Card>
          </>
        );
      }}
    </Loaded>
  );
}

function emptyWords(view: SearchView, found: Found): string {
  if (view === "all") return "None like this was shown in search results in this time.";
  if (view === "low-ctr" && Object.keys(found.usual_ctr ?? {}).length === 0)
    return "There are too few queries with 100 impressions to say what is usual on this site.";
  return "None that one could tell.";
}

type Setting = ReturnType<typeof useAddress>[1];

function Choices({ asked, found, set }: { asked: SearchAsked; found: Found; set: Setting }) {
  return (
    <div className="mb-3.5 flex flex-wrap items-end gap-3">
      <Segments
        label="By"
        value={asked.by}
        onChange={(name) => set("by", name === "page" ? name : "")}
        choices={[
          { value: "query", label: "Queries" },
          { value: "page", label: "Pages" },
        ]}
      />
      {asked.by === "query" && (
        <Segments
          label="Brand"
          value={asked.brand ?? "both"}
          onChange={(name) => set("brand", name === "both" ? "" : name)}
          choices={[
            { value: "both", label: "All" },
            { value: "only", label: "Brand" },
            { value: "without", label: "Without brand" },
          ]}
        />
      )}
      <Weeks weeks={asked.weeks} set={set} />
      <OneOf
        label="Device"
        all="all devices"
        value={asked.device ?? ""}
        names={found.devices ?? []}
        set={(value) => set("device", value)}
      />
      <OneOf
        label="Country"
        all="all countries"
        value={asked.country ?? ""}
        names={found.countries ?? []}
        set={(value) => set("country", value)}
      />
      <SearchInput
        label={asked.by === "page" ? "Search pages" : "Search queries"}
        value={asked.text ?? ""}
        onChange={(value) => set("text", value)}
      />
    </div>
  );
}

function Sums({ found }: { found: Found }) {
  const { now, before } = found;
  const figures = [
    { name: "Clicks", value: count(now?.clicks), was: count(before?.clicks) },
    { name: "Impressions", value: count(now?.impressions), was: count(before?.impressions) },
    { name: "CTR", value: rate(now?.ctr), was: rate(before?.ctr) },
    { name: "Mean position", value: points(now?.position), was: points(before?.position) },
  ];
  return (
    <PeriodSums found={found} figures={figures}>
      <DayByDay
        noun="Clicks"
        found={found}
        days={(found.days ?? []).map((each) => ({ day: each.day, value: each.clicks }))}
        sums={[now?.clicks ?? 0, before?.clicks ?? 0]}
      />
    </PeriodSums>
  );
}

const rate = (share: number | null | undefined) =>
  share === null || share === undefined ? "–" : `${points(share * 100)} %`;

function columns(asked: SearchAsked, site: Site): Column<SearchRow>[] {
  return [
    {
      head: asked.by === "page" ? "Page" : "Query",
      className: "wrap-anywhere",
      cell: (row) =>
        asked.by === "page" ? (
          <PageLink site={site} url={row.text} />
        ) : (
          <>
            {row.text} {row.brand && <span className="text-ink-3 text-sm">brand</span>}
          </>
        ),
    },
    { head: "Clicks", number: true, sort: "clicks", cell: (row) => count(row.now.clicks) },
    { head: "Before", number: true, sort: "before", cell: (row) => count(row.before.clicks) },
    {
      head: "Change",
      sort: "change",
      cell: (row) => <Moved now={row.now.clicks} before={row.before.clicks} movement={row.movement} noun="clicks" />,
    },
    { head: "Impressions", number: true, sort: "impressions", cell: (row) => count(row.now.impressions) },
    { head: "CTR", number: true, sort: "ctr", cell: (row) => rate(row.now.ctr) },
    { head: "Position", number: true, sort: "position", cell: (row) => points(row.now.position) },
    ...(asked.by === "query" && asked.view === "low-ctr"
      ? [
          {
            head: "Clicks missed",
            number: true,
            sort: "lost",
            cell: (row: SearchRow) => (
              <span title="Clicks beyond its own that it would have had at the usual rate of its position">
                {count(row.lost_clicks === null || row.lost_clicks === undefined ? null : Math.round(row.lost_clicks))}
              </span>
            ),
          },
        ]
      : []),
  ];
}
