import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { SearchFigures } from "../../api/types";
import { count, day } from "../../lib/words";

/** Clicks day by day: the time that is shown, and the one before it, which a line sets apart. */
export function DayByDay({ found }: { found: SearchFigures }) {
  const known = new Map((found.days ?? []).map((each) => [each.day, each]));
  const rows = days(found.before_first ?? "", found.last ?? "").map((each) => ({
    day: each,
    clicks: known.get(each)?.clicks ?? null,
  }));
  const said = `Clicks by day, ${day(found.before_first)} to ${day(found.last)}: ${count(found.before?.clicks)} before, ${count(found.now?.clicks)} since`;
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
            formatter={(value) => [count(Number(value)), "Clicks"]}
          />
          <ReferenceLine x={found.first ?? ""} stroke="var(--ink-3)" strokeDasharray="2 3" />
          <Line dataKey="clicks" stroke="var(--accent)" strokeWidth={1.75} dot={false} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}

/** Every day of a span, also those without figures: they are gaps. */
function days(first: string, last: string): string[] {
  const found: string[] = [];
  for (let at = new Date(`${first}T12:00:00Z`); at <= new Date(`${last}T12:00:00Z`); at.setUTCDate(at.getUTCDate() + 1))
    found.push(at.toISOString().slice(0, 10));
  return found;
}
