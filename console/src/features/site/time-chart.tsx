/** A figure over time, drawn: gaps where nothing is known, remarks by their numbers. */
import type { Ref } from "react";
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { Trend } from "../../api/types";
import { remarkMarks } from "../../lib/remark-marks";
import { count, day, moment, points } from "../../lib/words";

export type Span = readonly [number, number];
const TICKS_MAX = 12;

/** Whether a figure is of a hundred, so that its whole range is shown. */
export const isOfHundred = (trend: Trend) => trend.figure === "health" || trend.figure.startsWith("area.");

/** A value as it is shown. */
export const shownValue = (trend: Trend, value: number | null | undefined) =>
  typeof value === "number" && (isOfHundred(trend) || !Number.isInteger(value)) ? points(value) : count(value);

const timeOf = (point: Trend["points"][number]) => new Date(point.at).getTime();

/** From the first point of several lines to the last. */
export function spanOf(trends: readonly Trend[]): Span {
  const times = trends.flatMap((trend) => trend.points.map(timeOf));
  return [Math.min(...times), Math.max(...times)];
}

type Props = { trend: Trend; span: Span; tall?: string; small?: boolean; frame?: Ref<HTMLDivElement> };

/** What people remarked: a small chart has room for that alone. */
export const ofPeople = (trend: Trend) => trend.remarks.filter((each) => each.origin === "member");

export function TimeChart({ trend, span, tall = "h-72", small = false, frame }: Props) {
  const rows = trend.points.map((point) => ({ t: timeOf(point), value: point.value }));
  const marks = remarkMarks(small ? ofPeople(trend) : trend.remarks, trend.points);
  const [begin, end] = span;
  // Charts that share a line of time share its marks.
  const alone = begin === rows[0]?.t && end === rows.at(-1)?.t && !small;
  return (
    <div ref={frame} role="img" aria-label={`${trend.label}: ${trend.words}`} className={tall}>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={rows} margin={{ top: 18, right: 24, bottom: 4, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="t"
            type="number"
            scale="time"
            domain={[begin, end]}
            ticks={alone && rows.length <= TICKS_MAX ? rows.map((r) => r.t) : undefined}
            tickFormatter={(t: number) => day(new Date(t).toISOString())}
            stroke="var(--ink-3)"
            fontSize={12}
            minTickGap={30}
          />
          <YAxis
            domain={isOfHundred(trend) ? [0, 100] : [0, "auto"]}
            reversed={trend.figure === "search.position"}
            stroke="var(--ink-3)"
            fontSize={12}
            width={52}
            tickFormatter={(value: number) => (Number.isInteger(value) ? count(value) : points(value))}
          />
          <Tooltip
            contentStyle={{ background: "var(--surface)", borderColor: "var(--line-strong)" }}
            labelFormatter={(t) => moment(new Date(Number(t)).toISOString())}
            formatter={(v) => [shownValue(trend, Number(v)), trend.label]}
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
            dot={{ r: rows.length > 40 ? 0 : 3, fill: "var(--accent)" }}
            connectNulls={false}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
