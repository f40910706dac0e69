/** Reports: those that were made, what they are made from, when they are made, and how they look. */
import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { reports } from "../../api/queries/reports";
import { sites } from "../../api/queries/sites";
import { useAddress } from "../../lib/address";
import { utcDay } from "../../lib/dates";
import { day, moment } from "../../lib/words";
import { Tabs } from "../../ui/controls";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { Brand } from "./brand";
import { Schedules } from "./schedules";
import { StateWord } from "./state-word";
import { Templates } from "./templates";

const VIEWS = [
  { value: "reports", label: "Reports" },
  { value: "schedules", label: "Schedules" },
  { value: "templates", label: "Templates" },
  { value: "brand", label: "Brand" },
];

export function ReportsScreen() {
  const [view, set] = useAddress();
  const tab = VIEWS.find((each) => each.value === view.get("tab"))?.value ?? "reports";
  return (
    <>
      <Title of={["Reports"]} />
      <Heading title="Reports" />
      <div className="mt-3">
        <Tabs
          label="Reports"
          value={tab}
          onChange={(value) => set("tab", value === "reports" ? "" : value)}
          views={VIEWS}
        >
          {tab === "reports" && <Made />}
          {tab === "schedules" && <Schedules />}
          {tab === "templates" && <Templates />}
          {tab === "brand" && <Brand />}
        </Tabs>
      </div>
    </>
  );
}

function Made() {
  const may = useMay();
  const found = useQuery(reports.all());
  return (
    <div className={`grid items-start gap-4 ${may("add_report") ? "lg:grid-cols-[2fr_1fr]" : ""}`}>
      <Card>
        <Loaded query={found}>
          {(rows) => (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="Reports, the latest first"
              empty="No reports yet. Create the first one, or let a schedule make them."
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
                { head: "State", sort: (r) => r.state, cell: (r) => <StateWord report={r} /> },
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
  );
}

/** The first and the last day of the last whole month. */
export function lastMonth(today: Date): [string, string] {
  const first = new Date(Date.UTC(today.getUTCFullYear(), today.getUTCMonth() - 1, 1));
  const last = new Date(Date.UTC(today.getUTCFullYear(), today.getUTCMonth(), 0));
  return [utcDay(first), utcDay(last)];
}

function Make() {
  const [view] = useSearchParams();
  const navigate = useNavigate();
  const own = useQuery(sites.all("own"));
  const templates = useQuery(reports.templates()).data ?? [];
  const [from_day, to_day] = lastMonth(new Date());
  const form = useForm({
    defaultValues: { site_id: view.get("site") ?? "", template: "monthly", from_day, to_day, note: "" },
  });
  const make = useChange(reports.add());
  return (
    <Card title="Create report">
      <Form
        form={form}
        error={make.error}
        onSend={(values) =>
          make.mutate(
            { ...values, site_id: Number(values.site_id), title: "", language: "" },
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
        <Field
          name="template"
          label="Template"
          kind="choice"
          required
          choices={templates.map((each) => ({ value: each.id, label: each.name }))}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="from_day" label="From" kind="day" required />
          <Field name="to_day" label="To" kind="day" required />
        </div>
        <Field name="note" label="Note to the client" kind="long" rows={4} hint="Markdown; under the first section" />
        <Button main type="submit" disabled={make.isPending}>
          Create draft
        </Button>
      </Form>
    </Card>
  );
}
