/** A measure of every site from round to round. */
import { useQuery } from "@tanstack/react-query";
import { benchmarks } from "../../api/queries/work";
import type { Benchmark } from "../../api/types";
import { useAddress } from "../../lib/address";
import { besideRuns } from "../../lib/remark-marks";
import { measure } from "../../lib/words";
import { Select } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Line } from "../../ui/signs";
import { Loaded } from "../../ui/state";

export function Trend({ data }: { data: Benchmark }) {
  const [view, set] = useAddress();
  const chosen = data.rows.find((row) => row.id === view.get("measure")) ?? data.rows[0];
  const found = useQuery(benchmarks.trend(data.id, chosen?.id ?? "health", data.rounds));
  if (!chosen) return null;
  return (
    <Card title="Round by round" aside={chosen.high_is_good ? "high is good" : "low is good"}>
      <div className="mb-1">
        <Select
          aria-label="Measure"
          value={chosen.id}
          onChange={(id) => set("measure", id === "health" ? "" : id)}
          choices={data.rows.map((row) => ({ value: row.id, label: row.name }))}
        />
      </div>
      <Loaded query={found} tall={4}>
        {(rounds) => (
          <ul>
            {data.hosts.map((host, i) => (
              <li key={host} className="flex items-center justify-between gap-2 py-1">
                <span className={`min-w-0 flex-1 truncate ${i === 0 ? "font-semibold" : ""}`}>{host}</span>
                <span className="text-ink-3 text-sm whitespace-nowrap tabular-nums">
                  {measure(chosen.values[i], chosen.unit)}
                  {chosen.ranks[i] ? `, rank ${chosen.ranks[i]}` : ""}
                </span>
                <Line
                  values={rounds.map((round) => round.values[i] ?? null)}
                  marks={besideRuns(
                    data.remarks?.[i] ?? [],
                    rounds.map((round) => round.at),
                  )}
                  label={`${chosen.name} of ${host}: ranks ${rounds.map((round) => round.ranks[i] ?? "none").join(", ")}`}
                />
              </li>
            ))}
          </ul>
        )}
      </Loaded>
    </Card>
  );
}
