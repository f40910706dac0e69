import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Link, useSearchParams } from "react-router";
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { trends } from "../../api/queries/sites";
import { catalogue } from "../../api/queries/work";
import type { Trend } from "../../api/types";
import { readDay, utcDay } from "../../lib/dates";
import { count, day, moment, points } from "../../lib/words";
import { type Choice, DayInput, Labelled, Select } from "../../ui/controls";
import { Field, Form } from "../../ui/form";
import { SEVERITIES } from "../../ui/signs";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSite } from "./context";
import { remarkMarks } from "../../lib/remark-marks";

export function TrendScreen() {
  const { site } = useSite();
  const [view, setView] = useSearchParams();
  const figure = view.get("figure") ?? "health";
  const [from, to] = [view.get("from") ?? "", view.get("to") ?? ""];
  const whole = (day: string) => readDay(day, "year-first") ?? "";
  const trend = useQuery(trends.of(site.id, figure, whole(from), whole(to)));
  const entries = useQuery(catalogue.all()).data ?? [];
  const set = (name: string, value: string) =>
    setView({ ...Object.fromEntries(view), [name]: value }, { replace: true });
  const figures: Choice[] = [
    { value: "health", label: "Health" },
    { value: "findings", label: "Findings" },
    { value: "pages", label: "Pages scored" },
    ...SEVERITIES.map((s) => ({
      value: `severity.${s}`,
      label: `Findings, ${s}`,
      group: "Severity",
    })),
    ...[...new Map(entries.map((e) => [e.area, e.area_name]))].map(([id, name]) => ({
      value: `area.${id}`,
      label: name,
      group: "Area",
    })),
    ...entries.map((e) => ({ value: `check.${e.id}`, label: e.summary, group: "Check" })),
  ];
  return (
    <>
      <div className="mb-3.5 flex flex-wrap gap-3">
        <div className="w-72 max-w-full">
          <Labelled label="Figure">
            {(tied) => <Select {...tied} value={figure} onChange={(v) => set("figure", v)} choices={figures} />}
          </Labelled>
        </div>
        <Labelled label="From">
          {(tied) => <DayInput {...tied} name="first day" value={from} onChange={(v) => set("from", v)} />}
        </Labelled>
        <Labelled label="To">
          {(tied) => <DayInput {...tied} name="last day" value={to} onChange={(v) => set("to", v)} />}
        </Labelled>
      </div>
      <Loaded query={trend} tall={10}>
        {(data) => <Content trend={data} />}
      </Loaded>
    </>
  );
}

function Content({ trend }: { trend: Trend }) {
  const rows = trend.points.map((p) => ({
    t: new Date(p.at).getTime(),
    value: p.value,
  }));
  const marks = remarkMarks(trend.remarks, trend.points);
  const hundred = trend.figure === "health" || trend.figure.startsWith("area.");
  return (
    <>
      <Card title={trend.label} aside={trend.high_is_good ? "high is good" : "low is good"}>
        <p className="mb-2">{trend.words}</p>
        {rows.length === 0 ? (
          <p className="text-ink-3">No runs in that time.</p>
        ) : (
          <div role="img" aria-label={`${trend.label} over ${rows.length} runs: ${trend.words}`} className="h-72">
            <ResponsiveContainer width="100%" height="100%">
              <LineChart data={rows} margin={{ top: 18, right: 24, bottom: 4, left: 0 }}>
                <CartesianGrid stroke="var(--line)" vertical={false} />
                <XAxis
                  dataKey="t"
                  type="number"
                  scale="time"
                  domain={["dataMin", "dataMax"]}
                  ticks={rows.length <= 12 ? rows.map((r) => r.t) : undefined}
                  tickFormatter={(t: number) => day(new Date(t).toISOString())}
                  stroke="var(--ink-3)"
                  fontSize={12}
                />
                <YAxis domain={hundred ? [0, 100] : [0, "auto"]} stroke="var(--ink-3)" fontSize={12} width={44} />
                <Tooltip
                  contentStyle={{ background: "var(--surface)", borderColor: "var(--line-strong)" }}
                  labelFormatter={(t) => moment(new Date(Number(t)).toISOString())}
                  formatter={(v) => [points(Number(v)), trend.label]}
                />
                {marks.map((m) => (
                  <ReferenceLine
                    key={m.day}
                    x={m.t}
                    ifOverflow="hidden"
                    stroke={m.byPeople ? "var(--bad)" : "var(--ink-3)"}
                    strokeDasharray={m.byPeople ? "3 3" : "1 4"}
                    label={{
                      value: m.numbers.join(", "),
                      position: "top",
                      fill: m.byPeople ? "var(--bad)" : "var(--ink-3)",
                      fontSize: 12,
                    }}
                  />
                ))}
                <Line
                  dataKey="value"
                  stroke="var(--accent)"
                  strokeWidth={2}
                  dot={{ r: 3.5, fill: "var(--accent)" }}
                  connectNulls={false}
                  isAnimationActive={false}
                />
              </LineChart>
            </ResponsiveContainer>
          </div>
        )}
      </Card>
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-2">
        <Card title="Runs">
          <Table
            rows={[...trend.points].reverse()}
            id={(r) => r.run_id}
            caption="The figure run by run"
            empty="No runs yet."
            columns={[
              { head: "When", sort: (r) => r.at, cell: (r) => <RunLink point={r} /> },
              {
                head: trend.label,
                number: true,
                sort: (r) => r.value,
                cell: (r) => (r.value === null ? "–" : hundred ? points(r.value) : count(r.value)),
              },
              { head: "Pages examined", number: true, sort: (r) => r.pages, cell: (r) => count(r.pages) },
              { head: "Note", quiet: true, cell: (r) => r.note },
            ]}
          />
        </Card>
        <Remarks trend={trend} />
      </div>
    </>
  );
}

/** A run in its own screens; one that failed has nothing to show. */
function RunLink({ point }: { point: Trend["points"][number] }) {
  const { site } = useSite();
  if (point.state === "failed") return moment(point.at);
  return <Link to={`/sites/${site.id}?run=${point.run_id}`}>{moment(point.at)}</Link>;
}

function Remarks({ trend }: { trend: Trend }) {
  const { site } = useSite();
  const may = useMay();
  const today = utcDay(new Date());
  const form = useForm({ defaultValues: { day: today, text: "" } });
  const add = useChange(trends.addRemark(site.id));
  const remove = useChange(trends.removeRemark(site.id));
  return (
    <Card title="Remarks" aside="numbered as in the chart">
      <ul className="mb-2">
        {trend.remarks.map((r, i) => (
          <li key={r.id} className="border-line flex justify-between gap-3 border-b py-1.5">
            <span className="wrap-anywhere">
              <span className={`tabular-nums ${r.origin === "member" ? "text-bad" : "text-ink-3"}`}>{i + 1}</span>{" "}
              <b className="font-semibold">{day(r.day)}</b> {r.text}{" "}
              <span className="text-ink-3 text-sm">
                {r.origin === "member"
                  ? r.author
                  : r.run_id && <Link to={`/sites/${site.id}?run=${r.run_id}`}>run</Link>}
              </span>
            </span>
            {may("remove_remark") && (
              <LinkButton aria-label={`Remove the remark: ${r.text}`} onClick={() => remove.mutate(r.id)}>
                remove
              </LinkButton>
            )}
          </li>
        ))}
        {trend.remarks.length === 0 && (
          <li className="text-ink-3">
            None yet. Note what happened, such as a new theme, so that a jump can be explained later.
          </li>
        )}
      </ul>
      {remove.error && <Trouble error={remove.error} />}
      {may("add_remark") && (
        <Form
          form={form}
          error={add.error}
          className="flex flex-wrap items-start gap-2"
          onSend={(values) => add.mutate(values, { onSuccess: () => form.reset({ day: values.day, text: "" }) })}
        >
          <div className="w-40">
            <Field name="day" label="Day" kind="day" required />
          </div>
          <div className="min-w-40 flex-1">
            <Field name="text" label="Remark" required />
          </div>
          <Button className="mt-5.5" type="submit" disabled={add.isPending}>
            Add
          </Button>
        </Form>
      )}
    </Card>
  );
}
