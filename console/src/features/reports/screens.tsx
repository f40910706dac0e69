import { useState } from "react";
import { Link, useNavigate, useOutletContext, useParams, useSearchParams } from "react-router";
import type { Member, Report, Site } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, moment } from "../../lib/words";
import { Button, buttonClass, Card, Field, Heading, Loaded, Table, Trouble } from "../../ui/parts";

export function ReportsScreen() {
  const me = useOutletContext<Member>();
  const reports = useRead<Report[]>("/reports");
  return (
    <>
      <Heading title="Reports" />
      <div className={`mt-3.5 grid items-start gap-4 ${me.role === "guest" ? "" : "lg:grid-cols-[2fr_1fr]"}`}>
        <Card>
          <Loaded query={reports}>
            {(rows) => (
              <Table
                rows={rows}
                id={(r) => r.id}
                caption="Reports, the latest first"
                empty="No reports yet."
                columns={[
                  {
                    head: "Report",
                    cell: (r) => (
                      <>
                        <Link to={`/reports/${r.id}`} className="text-ink font-semibold">
                          {r.title}
                        </Link>
                        <div className="text-ink-3 text-sm">{r.site_host}</div>
                      </>
                    ),
                  },
                  { head: "Covers", cell: (r) => `${day(r.from_day)} to ${day(r.to_day)}` },
                  { head: "Made", cell: (r) => moment(r.created_at) },
                  {
                    head: "",
                    cell: (r) => (
                      <a href={`/api/v1/reports/${r.id}/pdf`} aria-label={`PDF of ${r.title}`}>
                        PDF
                      </a>
                    ),
                  },
                ]}
              />
            )}
          </Loaded>
        </Card>
        {me.role !== "guest" && <Make />}
      </div>
    </>
  );
}

function Make() {
  const [view] = useSearchParams();
  const navigate = useNavigate();
  const sites = useRead<Site[]>("/sites?kind=own");
  const today = new Date();
  const [values, setValues] = useState({
    site_id: view.get("site") ?? "",
    from_day: new Date(today.getTime() - 30 * 86_400_000).toISOString().slice(0, 10),
    to_day: today.toISOString().slice(0, 10),
    note: "",
  });
  const make = useChange<Record<string, unknown>, Report>("POST", "/reports");
  return (
    <Card title="Make a report">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          make.mutate(
            { ...values, site_id: Number(values.site_id) },
            { onSuccess: (r) => navigate(`/reports/${r.id}`) },
          );
        }}
      >
        <Field label="Site">
          {(c) => (
            <select
              className={c}
              required
              value={values.site_id}
              onChange={(e) => setValues({ ...values, site_id: e.target.value })}
            >
              <option value="">choose one</option>
              {(sites.data ?? []).map((s) => (
                <option key={s.id} value={s.id}>
                  {s.client_name}: {s.host}
                </option>
              ))}
            </select>
          )}
        </Field>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field label="From">
            {(c) => (
              <input
                className={c}
                type="date"
                required
                value={values.from_day}
                onChange={(e) => setValues({ ...values, from_day: e.target.value })}
              />
            )}
          </Field>
          <Field label="To">
            {(c) => (
              <input
                className={c}
                type="date"
                required
                value={values.to_day}
                onChange={(e) => setValues({ ...values, to_day: e.target.value })}
              />
            )}
          </Field>
        </div>
        <Field label="Note to the client">
          {(c) => (
            <textarea
              className={c}
              rows={4}
              value={values.note}
              onChange={(e) => setValues({ ...values, note: e.target.value })}
            />
          )}
        </Field>
        {make.error && <Trouble error={make.error} />}
        <Button main type="submit" disabled={make.isPending}>
          Make it
        </Button>
      </form>
    </Card>
  );
}

export function ReportScreen() {
  const { reportId } = useParams();
  const report = useRead<Report>(`/reports/${reportId}`);
  return (
    <Loaded query={report}>
      {(data) => (
        <>
          <Heading over={<Link to="/reports">Reports</Link>} title={data.title}>
            <a className={buttonClass()} href={`/api/v1/reports/${data.id}/html`} target="_blank" rel="noreferrer">
              Web page
            </a>
            <a className={buttonClass(true)} href={`/api/v1/reports/${data.id}/pdf`}>
              PDF
            </a>
          </Heading>
          <iframe
            title={data.title}
            src={`/api/v1/reports/${data.id}/html`}
            className="border-line mt-3.5 h-[78vh] w-full rounded-md border bg-white"
          />
        </>
      )}
    </Loaded>
  );
}
