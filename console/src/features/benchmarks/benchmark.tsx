/** One benchmark: how the own site stands in the latest round, measure by measure. */
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { benchmarks } from "../../api/queries/work";
import type { Benchmark } from "../../api/types";
import { count, day, moment, points } from "../../lib/words";
import { Downloads } from "../../ui/downloads";
import { Button, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { useState } from "react";
import { Severity, severityRank } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { behindLink, Measures } from "./measures";
import { EditBenchmark, RoundSchedule } from "./setup";
import { Missing } from "./missing";
import { Trend } from "./trend";

export function BenchmarkScreen() {
  const { benchmarkId } = useParams();
  const found = useQuery(benchmarks.one(Number(benchmarkId)));
  return (
    <Loaded query={found} tall={14}>
      {(data) => <Content data={data} />}
    </Loaded>
  );
}

const NOT_RANKED = "Our site takes no rank in this round; the reason is given below.";

function Content({ data }: { data: Benchmark }) {
  const may = useMay();
  const start = useChange(benchmarks.start(data.id));
  const isRanked = data.rows.some((row) => row.ranks[0] !== null);
  return (
    <>
      <Title of={[data.name, "Benchmarks"]} />
      <Heading over={<Link to="/benchmarks">Benchmarks</Link>} title={data.name}>
        <span className="text-ink-3 text-sm">
          {data.at ? `Round of ${moment(data.at)}` : data.state} · {count(data.pages_max)} pages each at most,{" "}
          {count(data.rate_per_s)} requests a second · catalogue defaults
        </span>
        {data.rows.length > 0 && <Downloads items={exportsOf(data.id)} />}
        <EditBenchmark data={data} />
        {may("start_round") && (
          <Button main disabled={data.state === "running" || start.isPending} onClick={() => start.mutate()}>
            {data.state === "running" ? "Round running" : "Run round"}
          </Button>
        )}
      </Heading>
      {start.error && <Trouble error={start.error} />}
      {data.rows.length === 0 ? (
        <Card className="mt-3.5">
          <p>{data.state === "running" ? "The first round is running." : "No round has been finished yet. Run one."}</p>
        </Card>
      ) : (
        <>
          <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-3">
            <Said
              title="Where we lead"
              said={data.sentences.lead ?? []}
              none={isRanked ? "On no measure at present." : NOT_RANKED}
            />
            <Said
              title="What to close first"
              data={data}
              said={data.sentences.close_first ?? []}
              rest={(data.sentences.trail ?? []).slice((data.sentences.close_first ?? []).length)}
              none={isRanked ? "We trail on no measure." : NOT_RANKED}
            />
            <Trend data={data} />
          </div>
          <Sites data={data} />
          <Measures data={data} />
          <Shares data={data} />
          <Missing data={data} />
          {data.metrics.length > 0 && <Imported data={data} />}
        </>
      )}
      <RoundSchedule data={data} />
    </>
  );
}

const exportsOf = (id: number) =>
  [
    ["Workbook (XLSX)", "xlsx"],
    ["Measures as CSV", "csv"],
    ["Measures as JSON Lines", "jsonl"],
  ].map(([label = "", form = ""]) => ({ label, href: `/api/v1/benchmarks/${id}/export?form=${form}` }));

/** What was examined of each site, and the way to its run. */
function Sites({ data }: { data: Benchmark }) {
  return (
    <p className="text-ink-2 mt-3.5 text-sm">
      {data.hosts.map((host, i) => (
        <span key={host}>
          {i > 0 && " · "}
          {data.runs?.[i] ? (
            <Link className="underline" to={`/sites/${data.site_ids?.[i]}?run=${data.runs[i]}`}>
              {host}
            </Link>
          ) : (
            host
          )}{" "}
          {data.pages[i] === null
            ? "not examined"
            : `${count(data.pages[i])} pages${data.sampled?.[i] ? ", a part of the site" : ""}`}
        </span>
      ))}
      {typeof data.audit_health === "number" &&
        `. The audit of ${data.site_host} with its own settings gives ${points(data.audit_health)} (${day(data.audit_at)}).`}
      {(data.unranked ?? []).map((said) => ` ${said}`)}
    </p>
  );
}

type Sentence = NonNullable<Benchmark["sentences"]["lead"]>[number];

function Said({
  title,
  said,
  rest = [],
  none,
  data,
}: {
  title: string;
  said: readonly Sentence[];
  rest?: readonly Sentence[];
  none: string;
  data?: Benchmark;
}) {
  const [all, setAll] = useState(false);
  const FIRST = 5;
  const listed = [...said, ...rest];
  const shown = all ? listed : listed.slice(0, FIRST);
  return (
    <Card title={title}>
      {listed.length === 0 ? (
        <p className="text-ink-3">{none}</p>
      ) : (
        <ul className="space-y-1.5">
          {shown.map((sentence) => {
            const row = data?.rows.find((each) => each.id === sentence.measure);
            const to = data && row ? behindLink(data, row) : "";
            return (
              <li key={sentence.measure}>
                {sentence.text}{" "}
                {to && (
                  <Link className="text-sm whitespace-nowrap underline" to={to}>
                    Show them
                  </Link>
                )}
              </li>
            );
          })}
        </ul>
      )}
      {listed.length > FIRST && (
        <p className="mt-1.5">
          <LinkButton onClick={() => setAll(!all)}>
            {all ? "Show fewer" : `Show ${count(listed.length - FIRST)} more`}
          </LinkButton>
        </p>
      )}
    </Card>
  );
}

/** Which checks fail where: the share of pages of each site. */
function Shares({ data }: { data: Benchmark }) {
  return (
    <Card
      title="Share of pages with a failing check"
      aside="low is good; with the 95 % interval where a site was examined in part"
      className="mt-3.5"
    >
      <Table
        rows={data.shares}
        id={(r) => r.check}
        name="benchmark shares"
        caption="Share of pages with each failing check"
        empty="All checks pass on all of these sites."
        columns={[
          {
            head: "Severity",
            sort: (r) => severityRank(r.severity),
            cell: (r) => <Severity name={r.severity} />,
          },
          {
            head: "Check",
            sort: (r) => r.summary,
            cell: (r) => (
              <Link
                className="text-ink"
                to={`/sites/${data.site_id}/checks/${r.check}${data.runs?.[0] ? `?run=${data.runs[0]}` : ""}`}
              >
                {r.summary}
              </Link>
            ),
          },
          ...data.hosts.map((host, i) => ({
            head: host,
            number: true,
            sort: (r: Benchmark["shares"][number]) => r.shares[i]?.[0],
            cell: (r: Benchmark["shares"][number]) => {
              const s = r.shares[i];
              if (!s) return "–";
              const [share, low, high] = s;
              return (
                <>
                  {points(share)} %{" "}
                  {low !== high && (
                    <span className="text-ink-3 text-sm">
                      {points(low)}–{points(high)}
                    </span>
                  )}
                </>
              );
            },
          })),
        ]}
      />
    </Card>
  );
}

function Imported({ data }: { data: Benchmark }) {
  return (
    <Card title="Imported figures" className="mt-3.5">
      <Table
        rows={data.metrics}
        id={(r) => r.name}
        caption="Imported figures"
        empty=""
        columns={[
          { head: "Figure", cell: (r) => r.name },
          ...data.hosts.map((host, i) => ({
            head: host,
            number: true,
            cell: (r: { values: (number | null)[] }) => count(r.values[i]),
          })),
          { head: "As of", cell: (r) => day(r.day) },
          { head: "Source", cell: (r) => <span className="text-ink-3">{r.source}</span> },
        ]}
      />
    </Card>
  );
}
