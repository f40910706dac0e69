import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { count, day } from "../../lib/words";

type Props = {
  /** What is counted, such as Clicks. */
  noun: string;
  found: { first?: string | null; last?: string | null; before_first?: string | null };
  days: readonly { day: string; value: number }[];
  /** What the days come to: now, and before. */
  sums: readonly [number, number];
};

/** A figure day by day: the time that is shown, and the one before it, which a line sets apart. */
export function DayByDay({ noun, found, days, sums }: Props) {
  const known = new Map(days.map((each) => [each.day, each.value]));
  const rows = everyDay(found.before_first ?? "", found.last ?? "").map((each) => ({
    day: each,
    value: known.get(each) ?? null,
  }));
  const said = `${noun} by day, ${day(found.before_first)} to ${day(found.last)}: ${count(sums[1])} before, ${count(sums[0])} since`;
  return (
    <div role="img" aria-label={said} className="h-44">
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={rows} margin={{ top: 8, right: 16, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="day" tickFormatter={day} stroke="var(--ink-3)" fontSize={12} minTickGap={40} />
          <YAxis stroke="var(--ink-3)" fontSize={12} width={44} domain={[0, "auto"]} />
          <Tooltip
            contentStyle={{ background: "var(--surface)", borderColor: "var(--line-strong)" }}
            labelFormatter={(label) => (typeof label === "string" ? day(label) : "")}
            formatter={(value) => [count(Number(value)), noun]}
          />
          <ReferenceLine x={found.first ?? ""} stroke="var(--ink-3)" strokeDasharray="2 3" />
          <Line dataKey="value" stroke="var(--accent)" strokeWidth={1.75} dot={false} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}

/** Every day of a span, also those without figures: they are gaps. */
function everyDay(first: string, last: string): string[] {
  const found: string[] = [];
  for (let at = new Date(`${first}T12:00:00Z`); at <= new Date(`${last}T12:00:00Z`); at.setUTCDate(at.getUTCDate() + 1))
    found.push(at.toISOString().slice(0, 10));
  return found;
}
