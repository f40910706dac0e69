/** Figures of a site over time: of its runs and from outside, with remarks and what lies between. */
import { useQueries, useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { type TrendAsked, trends } from "../../api/queries/sites";
import { catalogue } from "../../api/queries/work";
import type { Trend } from "../../api/types";
import { useAddress } from "../../lib/address";
import { readDay, utcDay } from "../../lib/dates";
import { savePng, saveSvg } from "../../lib/picture";
import { count, day, moment } from "../../lib/words";
import { type Choice, DayInput, Labelled, Segments, Select } from "../../ui/controls";
import { Field, Form } from "../../ui/form";
import { SEVERITIES } from "../../ui/signs";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { Tables } from "../../ui/tables";
import { useSite } from "./context";
import { shownValue, type Span, spanOf, TimeChart } from "./time-chart";

const TOGETHER_MAX = 4;
const EVERY = [
  { value: "run", label: "Runs" },
  { value: "week", label: "Weeks" },
  { value: "month", label: "Months" },
] as const;

/** Measures of an audit that are followed over time. */
const MEASURES = [
  ["severe_free_ratio", "Pages free of severe findings"],
  ["indexable_ratio", "Indexable pages"],
  ["listed_ratio", "Indexable pages in a sitemap"],
  ["description_ratio", "Pages with a meta description"],
  ["alt_ratio", "Images with alt text"],
  ["data_ratio", "Pages with structured data"],
  ["https_ratio", "Pages on HTTPS"],
  ["compressed_ratio", "Pages sent compressed"],
  ["first_byte_ms_median", "Time to first byte, median"],
  ["html_bytes_median", "HTML size, median"],
  ["words_median", "Words in the main text, median"],
  ["depth_p90", "Click depth, 90th percentile"],
] as const;

export function TrendScreen() {
  const { site } = useSite();
  const may = useMay();
  const [view, set] = useAddress();
  const figure = view.get("figure") ?? "health";
  const also = (view.get("also") ?? "").split(",").filter(Boolean);
  const every = EVERY.find((each) => each.value === view.get("every"))?.value ?? "run";
  const [from, to] = [view.get("from") ?? "", view.get("to") ?? ""];
  const whole = (day: string) => readDay(day, "year-first") ?? "";
  const asked = { from: whole(from), to: whole(to), every };
  const trend = useQuery(trends.of(site.id, figure, asked));
  const entries = useQuery(catalogue.all()).data ?? [];
  const outside = useQuery({ ...trends.figures(site.id), enabled: may("list_trend_figures") }).data ?? [];
  const figures: Choice[] = [
    { value: "health", label: "Health" },
    { value: "findings", label: "Findings" },
    { value: "pages", label: "Pages scored" },
    ...SEVERITIES.map((s) => ({
      value: `severity.${s}`,
      label: `Findings, ${s}`,
      group: "Severity",
    })),
    ...MEASURES.map(([name, label]) => ({ value: `measure.${name}`, label, group: "Measure" })),
    ...outside.map((each) => ({ value: each.figure, label: each.label, group: "From outside" })),
    ...[...new Map(entries.map((e) => [e.area, e.area_name]))].map(([id, name]) => ({
      value: `area.${id}`,
      label: name,
      group: "Area",
    })),
    ...entries.map((e) => ({ value: `check.${e.id}`, label: e.summary, group: "Check" })),
  ];
  const rest = figures.filter((each) => each.value !== figure && !also.includes(each.value));
  return (
    <>
      <div className="mb-3.5 flex flex-wrap items-end gap-3">
        <div className="w-56 max-w-full">
          <Labelled label="Figure">
            {(tied) => <Select {...tied} value={figure} onChange={(v) => set("figure", v)} choices={figures} />}
          </Labelled>
        </div>
        {also.length + 1 < TOGETHER_MAX && (
          <div className="w-44 max-w-full">
            <Labelled label="Beside it">
              {(tied) => (
                <Select
                  {...tied}
                  value=""
                  onChange={(v) => v && set("also", [...also, v].join(","))}
                  choices={[{ value: "", label: "another figure" }, ...rest]}
                />
              )}
            </Labelled>
          </div>
        )}
        <Segments
          label="Points"
          value={every}
          onChange={(name) => set("every", name === "run" ? "" : name)}
          choices={EVERY}
        />
        <Labelled label="From">
          {(tied) => <DayInput {...tied} name="first day" value={from} onChange={(v) => set("from", v)} />}
        </Labelled>
        <Labelled label="To">
          {(tied) => <DayInput {...tied} name="last day" value={to} onChange={(v) => set("to", v)} />}
        </Labelled>
      </div>
      <Loaded query={trend} tall={10}>
        {(data) => (
          <Together
            first={data}
            also={also}
            asked={asked}
            remove={(name) => set("also", also.filter((each) => each !== name).join(","))}
          />
        )}
      </Loaded>
    </>
  );
}

type Together = { first: Trend; also: readonly string[]; asked: TrendAsked; remove: (figure: string) => void };

/** Figures one below the other on one line of time, each with an axis of its own; then the points of the first, and remarks. */
function Together({ first, also, asked, remove }: Together) {
  const { site } = useSite();
  const others = useQueries({ queries: also.map((figure) => trends.of(site.id, figure, asked)) });
  const known = others.flatMap((each) => (each.data ? [each.data] : []));
  const span = spanOf([first, ...known]);
  return (
    <>
      <div className="space-y-3.5">
        <Figure trend={first} span={span} asked={asked} />
        {others.map((each, n) => (
          <Loaded key={also[n]} query={each} tall={6}>
            {(data) => <Figure trend={data} span={span} asked={asked} remove={() => remove(data.figure)} />}
          </Loaded>
        ))}
      </div>
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-2">
        <Points trend={first} />
        <Remarks trend={first} />
      </div>
    </>
  );
}

type FigureProps = { trend: Trend; span: Span; asked: TrendAsked; remove?: () => void };

function Figure({ trend, span, asked, remove }: FigureProps) {
  const { site } = useSite();
  const frame = useRef<HTMLDivElement>(null);
  const picture = (save: (svg: SVGSVGElement, name: string) => unknown, end: string) => {
    const svg = frame.current?.querySelector("svg");
    if (svg) void save(svg, `${site.host}-${trend.figure}.${end}`);
  };
  const good = trend.high_is_good === null ? "" : trend.high_is_good ? "high is good" : "low is good";
  return (
    <Card
      title={trend.label}
      aside={
        <span className="flex flex-wrap items-center gap-2">
          {good}
          {trend.points.length > 0 && (
            <>
              <Tables
                label="Table"
                from={`/sites/${site.id}/trend/export`}
                asked={{ figure: trend.figure, ...asked }}
              />
              <Button onClick={() => picture(saveSvg, "svg")}>Save SVG</Button>
              <Button onClick={() => picture(savePng, "png")}>Save PNG</Button>
            </>
          )}
          {remove && (
            <LinkButton aria-label={`Take ${trend.label} away`} onClick={remove}>
              remove
            </LinkButton>
          )}
        </span>
      }
    >
      <p>{trend.words}</p>
      {trend.between && <p className="text-ink-2 mb-2">{trend.between}</p>}
      {trend.points.length === 0 ? (
        <p className="text-ink-3">Nothing is known of that time.</p>
      ) : (
        <TimeChart trend={trend} span={span} frame={frame} tall={remove ? "h-48" : "h-72"} />
      )}
    </Card>
  );
}

function Points({ trend }: { trend: Trend }) {
  const byRun = trend.every === "run";
  return (
    <Card title={byRun ? "Runs" : trend.every === "week" ? "Weeks" : "Months"}>
      <Table
        rows={[...trend.points].reverse()}
        id={(r) => r.run_id || r.at}
        caption="The figure point by point"
        empty="No runs yet."
        columns={[
          {
            head: "When",
            sort: (r) => r.at,
            cell: (r) => (r.last ? `${day(r.first)} to ${day(r.last)}` : <RunLink point={r} />),
          },
          { head: trend.label, number: true, sort: (r) => r.value, cell: (r) => shownValue(trend, r.value) },
          ...(trend.points.some((point) => typeof point.pages === "number")
            ? [
                {
                  head: "Pages examined",
                  number: true,
                  sort: (r: Trend["points"][number]) => r.pages,
                  cell: (r: Trend["points"][number]) => count(r.pages),
                },
              ]
            : []),
          { head: "Note", quiet: true, cell: (r) => r.note },
        ]}
      />
    </Card>
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
