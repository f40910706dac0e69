import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { benchmarks } from "../../api/queries/work";
import type { Benchmark } from "../../api/types";
import { count, day, gap, measure, moment, points } from "../../lib/words";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { besideRuns } from "../../lib/remark-marks";
import { Line, Severity, severityRank } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";

export function BenchmarksScreen() {
  const rows = useQuery(benchmarks.all());
  return (
    <>
      <Title of={["Benchmarks"]} />
      <Heading title="Benchmarks" />
      <Card className="mt-3.5">
        <Loaded query={rows}>
          {(data) => (
            <Table
              rows={data}
              id={(r) => r.id}
              caption="Benchmarks"
              empty={
                <>
                  No benchmarks yet. Set one up:{" "}
                  <code className="font-mono">hodcarrier benchmark add NAME SITE COMPETITOR</code>
                </>
              }
              columns={[
                {
                  head: "Benchmark",
                  sort: (r) => r.name,
                  cell: (r) => (
                    <Link to={`/benchmarks/${r.id}`} className="text-ink font-semibold">
                      {r.name}
                    </Link>
                  ),
                },
                { head: "Own site", cell: (r) => r.site_host },
                { head: "Against", cell: (r) => r.competitors.join(", ") },
                {
                  head: "Rank by health",
                  number: true,
                  cell: (r) => (r.rank ? `${r.rank} of ${r.competitors.length + 1}` : "–"),
                },
                { head: "Rounds", number: true, cell: (r) => r.rounds },
              ]}
            />
          )}
        </Loaded>
      </Card>
    </>
  );
}

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
              sentences={data.sentences.lead ?? []}
              none={isRanked ? "On no measure at present." : NOT_RANKED}
            />
            <Said
              title="Where we trail"
              sentences={data.sentences.trail ?? []}
              none={isRanked ? "On no measure." : NOT_RANKED}
            />
            <Card title="Health, round by round" aside="high is good">
              {data.hosts.map((host, i) => (
                <div key={host} className="flex items-center justify-between gap-2 py-1">
                  <Link
                    to={`/sites/${data.site_id}`}
                    className={i === 0 ? "font-semibold" : "pointer-events-none text-ink no-underline"}
                    tabIndex={i === 0 ? 0 : -1}
                  >
                    {host}
                  </Link>
                  <Line
                    values={data.rank_history.map((r) => r.health[i] ?? null)}
                    marks={besideRuns(
                      data.remarks?.[i] ?? [],
                      data.rank_history.map((r) => r.at),
                    )}
                    label={`Health of ${host}`}
                  />
                </div>
              ))}
            </Card>
          </div>
          <Card title="Measures" aside="the best of each row is bold" className="mt-3.5">
            <p className="text-ink-2 mb-2 text-sm">
              All sites were audited with the same settings and the catalogue's default limits.
              {typeof data.audit_health === "number" &&
                ` The audit of ${data.site_host} with its own settings gives ${points(data.audit_health)} (${day(data.audit_at)}).`}
              {(data.unranked ?? []).map((said) => ` ${said}`)}
            </p>
            <Table
              rows={data.rows}
              id={(r) => r.id}
              caption="Measures over the sites"
              empty="No measures."
              columns={[
                {
                  head: "Measure",
                  cell: (r) => (
                    <>
                      {r.name} <span className="text-ink-3 text-sm">{r.high_is_good ? "high" : "low"} is good</span>
                    </>
                  ),
                },
                ...data.hosts.map((host, i) => ({
                  head: host,
                  number: true,
                  cell: (r: Benchmark["rows"][number]) => (
                    <span className={r.ranks[i] === 1 ? "font-semibold" : ""}>{measure(r.values[i], r.unit)}</span>
                  ),
                })),
                {
                  head: "Our rank",
                  number: true,
                  cell: (r) => (r.ranks[0] ? `${r.ranks[0]} of ${r.ranks.filter((x) => x !== null).length}` : "–"),
                },
                {
                  head: "Gap to best",
                  number: true,
                  cell: (r) => (
                    <span className={(r.gap_to_best ?? 0) < 0 ? "text-bad" : "text-good"}>
                      {gap(r.gap_to_best, r.unit)}
                    </span>
                  ),
                },
              ]}
            />
          </Card>
          <Card
            title="Share of pages with a failing check"
            aside="with the 95 % interval, because the samples differ in size; low is good"
            className="mt-3.5"
          >
            <Table
              rows={data.shares}
              id={(r) => r.check}
              caption="Share of pages with each failing check"
              empty="All checks pass on all of these sites."
              columns={[
                {
                  head: "Severity",
                  sort: (r) => severityRank(r.severity),
                  cell: (r) => <Severity name={r.severity} />,
                },
                { head: "Check", sort: (r) => r.summary, cell: (r) => r.summary },
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
                        <span className="text-ink-3 text-sm">
                          {points(low)}–{points(high)}
                        </span>
                      </>
                    );
                  },
                })),
              ]}
            />
          </Card>
          {data.metrics.length > 0 && (
            <Card title="Imported figures" aside="high is good" className="mt-3.5">
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
                  { head: "As of", cell: (r) => r.day },
                  { head: "Source", cell: (r) => <span className="text-ink-3">{r.source}</span> },
                ]}
              />
            </Card>
          )}
        </>
      )}
    </>
  );
}

function Said({ title, sentences, none }: { title: string; sentences: string[]; none: string }) {
  return (
    <Card title={title}>
      {sentences.length === 0 ? (
        <p className="text-ink-3">{none}</p>
      ) : (
        <ul className="space-y-1.5">
          {sentences.slice(0, 5).map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      )}
    </Card>
  );
}
