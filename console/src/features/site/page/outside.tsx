/** What is known of a page from outside: clicks, visits, positions, links from other sites. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { figures } from "../../../api/queries/figures";
import type { PageFigures, Site } from "../../../api/types";
import { count, day, points } from "../../../lib/words";
import { Card } from "../../../ui/parts";
import { Table } from "../../../ui/table";

/** A card, where the site has any figures from outside at all. */
export function FromOutside({ site, url }: { site: Site; url: string }) {
  const data = useQuery(figures.page(site.id, url)).data;
  const has = data && (data.search || data.visits || typeof data.links === "number" || data.keywords?.length);
  return has ? <Known site={site} found={data} /> : null;
}

function Known({ site, found }: { site: Site; found: PageFigures }) {
  const queries = found.queries ?? [];
  const channels = found.channels ?? [];
  const keywords = found.keywords ?? [];
  return (
    <Card title="From outside" aside={<Link to={`/sites/${site.id}/figures?by=page`}>All pages</Link>}>
      <p>{found.sentence}</p>
      <div className="mt-2 space-y-3">
        {queries.length > 0 && (
          <Table
            rows={queries}
            id={(row) => row.text}
            caption="Queries that lead here"
            empty=""
            columns={[
              { head: "Query", className: "wrap-anywhere", cell: (row) => row.text },
              { head: "Clicks", number: true, cell: (row) => count(row.now.clicks) },
              { head: "Before", number: true, cell: (row) => count(row.before.clicks) },
              { head: "Impressions", number: true, cell: (row) => count(row.now.impressions) },
              { head: "Position", number: true, cell: (row) => points(row.now.position) },
            ]}
          />
        )}
        {channels.length > 0 && (
          <Table
            rows={channels}
            id={(row) => row.text}
            caption="Channels that visits came by"
            empty=""
            columns={[
              { head: "Channel", cell: (row) => row.text || "not told" },
              { head: "Visits", number: true, cell: (row) => count(row.now.sessions) },
              { head: "Before", number: true, cell: (row) => count(row.before.sessions) },
            ]}
          />
        )}
        {keywords.length > 0 && (
          <Table
            rows={keywords}
            id={(row) => [row.keyword, row.device, row.place].join("|")}
            caption="Keywords that it stands for"
            empty=""
            columns={[
              { head: "Keyword", className: "wrap-anywhere", cell: (row) => row.keyword },
              { head: "Looked", cell: (row) => [row.device, row.place, day(row.day)].filter(Boolean).join(", ") },
              { head: "Position", number: true, cell: (row) => count(row.rank) },
            ]}
          />
        )}
      </div>
    </Card>
  );
}
