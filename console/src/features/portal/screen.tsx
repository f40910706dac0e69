/** A client's own place: what somebody of the client sees who signs in. The agency can look at it too. */
import { useQuery } from "@tanstack/react-query";
import { Link, Navigate, useParams } from "react-router";
import { portals } from "../../api/queries/reports";
import { session } from "../../api/queries/team";
import type { Portal } from "../../api/types";
import { day, points } from "../../lib/words";
import { Card, Heading, Title } from "../../ui/parts";
import { Course } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { spanOf, TimeChart } from "../site/time-chart";
import { Waiting } from "../todos/approvals";

/** The portal of whoever is signed in as a guest. */
export function OwnPortalScreen() {
  const me = useQuery(session.me()).data;
  if (!me) return null;
  return me.client_id == null ? <Navigate to="/" replace /> : <PortalOf clientId={me.client_id} own />;
}

/** That of a client, as its guests see it. */
export function ClientPortalScreen() {
  return <PortalOf clientId={Number(useParams().clientId)} />;
}

function PortalOf({ clientId, own = false }: { clientId: number; own?: boolean }) {
  const found = useQuery(portals.of(clientId));
  return (
    <Loaded query={found} tall={14}>
      {(portal) => <Content portal={portal} own={own} />}
    </Loaded>
  );
}

function Content({ portal, own }: { portal: Portal; own: boolean }) {
  return (
    <>
      <Title of={[portal.client_name]} />
      <Heading
        over={own ? portal.agency : <Link to={`/clients/${portal.client_id}`}>{portal.client_name}</Link>}
        title={own ? portal.client_name : "Portal, as the client sees it"}
      />
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[3fr_2fr]">
        <div className="min-w-0 space-y-4">
          {portal.sites.map((site) => (
            <Card key={site.id} title={site.host}>
              <div className="mb-1 flex flex-wrap items-center gap-x-5 gap-y-1">
                <span className="text-[26px] leading-8 font-semibold">{points(site.health)}</span>
                {site.health !== null && <Course health={site.health} />}
              </div>
              <p className="text-ink-2 mb-2">{site.words}</p>
              {site.trend.points.length > 1 && <TimeChart trend={site.trend} span={spanOf([site.trend])} tall="h-56" />}
              {site.trend.remarks.length > 0 && (
                <ul className="text-ink-2 mt-1 text-sm">
                  {site.trend.remarks.map((remark) => (
                    <li key={`${remark.day} ${remark.text}`}>
                      {day(remark.day)}: {remark.text}
                    </li>
                  ))}
                </ul>
              )}
            </Card>
          ))}
          <Card title="What was done">
            <Table
              rows={portal.done}
              id={(row) => `${row.title} ${row.day}`}
              caption="What an audit has confirmed, the latest first"
              empty="Nothing was done and confirmed yet."
              columns={[
                { head: "Work", cell: (row) => row.title },
                { head: "Site", cell: (row) => row.site_host },
                { head: "Confirmed", cell: (row) => day(row.day) },
              ]}
            />
          </Card>
          <Card title="What is in hand">
            <Table
              rows={portal.hand}
              id={(row) => `${row.title} ${row.site_host} ${row.day}`}
              caption="What is in hand, by due date"
              empty="Nothing is in hand."
              columns={[
                { head: "Work", cell: (row) => row.title },
                { head: "Site", cell: (row) => row.site_host },
                { head: "By", cell: (row) => (row.day ? day(row.day) : "no date yet") },
                {
                  head: "Done so far",
                  number: true,
                  cell: (row) => (row.places > 0 ? `${row.cleared} of ${row.places}` : "–"),
                },
              ]}
            />
          </Card>
        </div>
        <div className="min-w-0 space-y-4">
          <Card title="Reports">
            {portal.reports.length === 0 && <p className="text-ink-3">No report yet.</p>}
            <ul className="divide-line divide-y">
              {portal.reports.map((report) => (
                <li key={report.id} className="flex flex-wrap items-baseline justify-between gap-x-3 py-1.5">
                  <a href={`/api/v1/reports/${report.id}/html`} target="_blank" rel="noreferrer">
                    {report.title}
                  </a>
                  <a href={`/api/v1/reports/${report.id}/pdf`} aria-label={`PDF of ${report.title}`}>
                    PDF
                  </a>
                </li>
              ))}
            </ul>
          </Card>
          <section aria-label="Waits for your answer" className="space-y-3">
            <h2 className="text-base font-semibold">Waits for {own ? "your" : "their"} answer</h2>
            {portal.approvals.length === 0 && <p className="text-ink-3">Nothing waits for an answer.</p>}
            {portal.approvals.map((row) => (
              <Waiting key={row.todo_id} row={row} />
            ))}
          </section>
        </div>
      </div>
    </>
  );
}
