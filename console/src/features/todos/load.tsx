import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { todos } from "../../api/queries/work";
import type { Load, LoadRow } from "../../api/types";
import { count, plural } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";

const SPANS = [
  ["overdue", "Overdue", "overdue", "var(--high)"],
  ["this_week", "This week", "this-week", "var(--accent)"],
  ["next_week", "Next week", "next-week", "color-mix(in srgb, var(--accent) 60%, var(--surface))"],
  ["later", "Later", "later", "color-mix(in srgb, var(--accent) 35%, var(--surface))"],
] as const;
/** More than so many to-dos are a figure beside a full course. */
const BRICKS_MAX = 8;

/** Who has what to do by when, and how the week stands. */
export function WhoHasWhat({ client }: { client?: number }) {
  const load = useQuery(todos.load(client));
  return (
    <Loaded query={load} tall={5}>
      {(data) => (
        <div className="mt-3 grid items-start gap-3.5 lg:grid-cols-[2.3fr_1fr]">
          <Card title="Who has what" aside="open and doing, by the week it is due">
            <Table
              rows={data.people.filter((row) => row.member_id !== null || SPANS.some(([name]) => row[name].todos > 0))}
              id={(r) => r.member_id ?? 0}
              caption="To-dos by person and week"
              empty="There is nobody who can be given work yet. Invite members under Team & settings."
              columns={[
                {
                  head: "Who",
                  cell: (r) => (r.member_id === null ? <span className="text-ink-3">Unassigned</span> : r.name),
                },
                ...SPANS.map(([name, head, due, fill]) => ({
                  head,
                  cell: (r: LoadRow) => <Bricks row={r} span={name} due={due} fill={fill} />,
                })),
              ]}
            />
          </Card>
          <Card title="This week">
            <Week data={data} />
          </Card>
        </div>
      )}
    </Loaded>
  );
}

function Bricks({
  row,
  span,
  due,
  fill,
}: {
  row: LoadRow;
  span: (typeof SPANS)[number][0];
  due: string;
  fill: string;
}) {
  const { todos: n, hours } = row[span];
  if (n === 0) return <span className="text-ink-3">·</span>;
  const shown = Math.min(n, BRICKS_MAX);
  const words = plural(n, "to-do") + (hours > 0 ? `, ${hours} h` : "");
  const drawn = (
    <span className="inline-flex flex-wrap items-center gap-1.5" title={words}>
      <svg width={shown * 18} height={10} aria-hidden="true">
        {Array.from({ length: shown }, (_, i) => (
          <rect key={i} x={i * 18} width={16} height={9} fill={fill} />
        ))}
      </svg>
      <span className={n > BRICKS_MAX ? "text-ink-2 text-sm" : "sr-only"}>{count(n)}</span>
      {hours > 0 && <span className="text-ink-3 text-sm">{hours} h</span>}
    </span>
  );
  if (row.member_id === null) return drawn;
  return (
    <Link to={`/todos?who=${row.member_id}&due=${due}`} aria-label={`${row.name}: ${words}`}>
      {drawn}
    </Link>
  );
}

function Week({ data }: { data: Load }) {
  const rows: [number, string, string, string][] = [
    [
      data.overdue,
      "overdue",
      data.overdue > 0 ? `oldest ${plural(data.oldest_days, "day")}` : "",
      data.overdue > 0 ? "text-bad" : "",
    ],
    [data.due_this_week, "due by Sunday", "", ""],
    [data.confirmed_this_week, "confirmed by audits", "", data.confirmed_this_week > 0 ? "text-good" : ""],
    [data.reopened_this_week, "opened again by audits", "", data.reopened_this_week > 0 ? "text-bad" : ""],
  ];
  return (
    <ul>
      {rows.map(([n, words, aside, tone]) => (
        <li key={words} className="border-line flex items-baseline gap-3 border-b py-1.5 last:border-b-0">
          <b className={`w-7 text-right font-semibold tabular-nums ${tone}`}>{count(n)}</b>
          <span>{words}</span>
          {aside && <span className="text-bad ml-auto text-sm">{aside}</span>}
        </li>
      ))}
    </ul>
  );
}
