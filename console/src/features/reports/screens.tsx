import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sites } from "../../api/queries/sites";
import { reports } from "../../api/queries/work";
import { utcDay } from "../../lib/dates";
import { day, moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, buttonClass, Card, Heading, Title } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";

export function ReportsScreen() {
  const may = useMay();
  const found = useQuery(reports.all());
  return (
    <>
      <Title of={["Reports"]} />
      <Heading title="Reports" />
      <div className={`mt-3.5 grid items-start gap-4 ${may("add_report") ? "lg:grid-cols-[2fr_1fr]" : ""}`}>
        <Card>
          <Loaded query={found}>
            {(rows) => (
              <Table
                rows={rows}
                id={(r) => r.id}
                caption="Reports, the latest first"
                empty="No reports yet."
                columns={[
                  {
                    head: "Report",
                    sort: (r) => r.title,
                    cell: (r) => (
                      <>
                        <Link to={`/reports/${r.id}`} className="text-ink font-semibold">
                          {r.title}
                        </Link>
                        <div className="text-ink-3 text-sm">{r.site_host}</div>
                      </>
                    ),
                  },
                  { head: "Covers", sort: (r) => r.from_day, cell: (r) => `${day(r.from_day)} to ${day(r.to_day)}` },
                  { head: "Made", sort: (r) => r.created_at, cell: (r) => moment(r.created_at) },
                  {
                    head: "PDF",
                    quiet: true,
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
        {may("add_report") && <Make />}
      </div>
    </>
  );
}

const MONTH_MS = 30 * 86_400_000;

function Make() {
  const [view] = useSearchParams();
  const navigate = useNavigate();
  const own = useQuery(sites.all("own"));
  const today = new Date();
  const form = useForm({
    defaultValues: {
      site_id: view.get("site") ?? "",
      from_day: utcDay(new Date(today.getTime() - MONTH_MS)),
      to_day: utcDay(today),
      note: "",
    },
  });
  const make = useChange(reports.add());
  return (
    <Card title="Create report">
      <Form
        form={form}
        error={make.error}
        onSend={(values) =>
          make.mutate(
            { ...values, site_id: Number(values.site_id) },
            { onSuccess: (report) => void navigate(`/reports/${report.id}`) },
          )
        }
      >
        <Field
          name="site_id"
          label="Site"
          kind="choice"
          required
          choices={(own.data ?? []).map((s) => ({ value: String(s.id), label: `${s.client_name}: ${s.host}` }))}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="from_day" label="From" kind="day" required />
          <Field name="to_day" label="To" kind="day" required />
        </div>
        <Field name="note" label="Note to the client" kind="long" rows={4} />
        <Button main type="submit" disabled={make.isPending}>
          Make it
        </Button>
      </Form>
    </Card>
  );
}

export function ReportScreen() {
  const { reportId } = useParams();
  const report = useQuery(reports.one(Number(reportId)));
  return (
    <Loaded query={report}>
      {(data) => (
        <>
          <Title of={[data.title]} />
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
