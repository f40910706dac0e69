import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { benchmarks } from "../../api/queries/work";
import { Card, Heading, Title } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { NewBenchmark } from "./setup";

export function BenchmarksScreen() {
  const rows = useQuery(benchmarks.all());
  const may = useMay();
  return (
    <>
      <Title of={["Benchmarks"]} />
      <Heading title="Benchmarks">{may("add_benchmark") && <NewBenchmark />}</Heading>
      <Card className="mt-3.5">
        <Loaded query={rows}>
          {(data) => (
            <Table
              rows={data}
              id={(r) => r.id}
              caption="Benchmarks"
              empty="No benchmarks yet. Set one up: a client's site against its competitors."
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
