/** One figure of all sites of a client side by side, each in a small picture on the same line of time. */
import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { trends } from "../../api/queries/sites";
import type { Trend } from "../../api/types";
import { Select } from "../../ui/controls";
import { day } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { ofPeople, shownValue, spanOf, TimeChart } from "../site/time-chart";

const FIGURES = [
  { value: "health", label: "Health" },
  { value: "findings", label: "Findings" },
  { value: "severity.critical", label: "Findings, critical" },
  { value: "pages", label: "Pages scored" },
  { value: "search.clicks", label: "Clicks from search" },
  { value: "visits.sessions", label: "Visits" },
];
const ASKED = { from: "", to: "", every: "week" } as const;

export function SiteTrends({ sites }: { sites: readonly { id: number; host: string }[] }) {
  const [figure, setFigure] = useState("health");
  const found = useQueries({ queries: sites.map((site) => trends.of(site.id, figure, ASKED)) });
  const known = found.flatMap((each) => (each.data && each.data.points.length > 0 ? [each.data] : []));
  const span = spanOf(known);
  return (
    <Card
      title="Trends"
      aside={
        <span className="block w-52">
          <Select aria-label="Figure" value={figure} onChange={setFigure} choices={FIGURES} />
        </span>
      }
    >
      <div className="grid gap-4 sm:grid-cols-2">
        {found.map((query, n) => {
          const site = sites[n];
          return (
            site && (
              <section key={site.id} aria-label={site.host} className="min-w-0">
                <Loaded query={query} tall={4}>
                  {(trend) => {
                    const last = trend.points.findLast((point) => point.value !== null);
                    return (
                      <>
                        <h3 className="flex flex-wrap items-baseline justify-between gap-x-2">
                          <Link to={`/sites/${site.id}/trend?figure=${figure}&every=week`}>{site.host}</Link>
                          <span className="text-ink-3 text-sm tabular-nums">
                            {shownValue(trend, last?.value)}, {trend.state}
                          </span>
                        </h3>
                        {last ? (
                          <>
                            <TimeChart trend={trend} span={span} tall="h-32" small />
                            <Remarked trend={trend} />
                          </>
                        ) : (
                          <p className="text-ink-3 text-sm">Nothing is known of it yet.</p>
                        )}
                      </>
                    );
                  }}
                </Loaded>
              </section>
            )
          );
        })}
      </div>
    </Card>
  );
}

/** What the numbers above the dashed lines stand for. */
function Remarked({ trend }: { trend: Trend }) {
  const remarks = ofPeople(trend);
  if (remarks.length === 0) return null;
  return (
    <ol className="text-ink-3 list-inside list-decimal text-sm" aria-label="Remarks">
      {remarks.map((each) => (
        <li key={`${each.day} ${each.text}`} className="wrap-anywhere">
          {each.text}, {day(each.day)}
        </li>
      ))}
    </ol>
  );
}
