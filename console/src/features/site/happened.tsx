import { Link } from "react-router";
import { Bar, BarChart, CartesianGrid, Cell, LabelList, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { useMay } from "../../api/hooks";
import type { Comparison, Event } from "../../api/types";
import { count, day, points, signed } from "../../lib/words";
import { Card } from "../../ui/parts";
import { CHANGES, type ChangeName } from "../../ui/signs";
import { Table } from "../../ui/table";
import { useChosen } from "./compared-findings";
import { useSite } from "./context";
import { MakeTodo } from "./make-todo";

/** Classes of which the latest run has the finding itself, so that somebody can work on it. */
const THERE: readonly ChangeName[] = [
  "new",
  "new-with-page",
  "new-to-view",
  "returned",
  "waiver-ended",
  "check-changed",
  "still-there",
];
const tone = (value: number | null | undefined) => (!value ? "text-ink-3" : value < 0 ? "text-bad" : "text-good");

/** What happened between two runs: the sentence, and the events with what each did to health. */
export function Happened({ data, latest }: { data: Comparison; latest: boolean }) {
  const { chosen, choose } = useChosen(data);
  const [first, rest] = split(data.sentence);
  return (
    <Card>
      <p className="mb-2 text-[16px] leading-6">
        <b className="font-semibold">{first}</b> {rest}
      </p>
      <Table
        rows={data.events.map((event, place) => ({ ...event, place }))}
        id={(r) => r.place}
        caption="What happened, with its share of the change in health"
        empty="The runs are alike."
        marked={(r) => chosen.event === r.place}
        columns={[
          { head: "Number", quiet: true, cell: (r) => <span className="text-ink-3 text-sm">{r.place + 1}</span> },
          {
            head: "Health",
            number: true,
            cell: (r) => <span className={`font-semibold ${tone(r.shown)}`}>{signed(r.shown)}</span>,
          },
          {
            head: "What happened",
            cell: (r) => (
              <>
                {Object.keys(r.counts).length > 0 ? (
                  <button
                    type="button"
                    className="hover:text-accent text-left font-semibold break-words"
                    onClick={() => choose({ event: r.place })}
                  >
                    {r.title}
                  </button>
                ) : (
                  <b className="font-semibold break-words">{r.title}</b>
                )}
                {r.detail && <div className="text-ink-3 text-sm break-words">{r.detail}</div>}
              </>
            ),
          },
          { head: "Findings", number: true, cell: (r) => <Counts counts={r.counts} /> },
          { head: "To-do", cell: (r) => <EventTodos data={data} event={r} place={r.place} latest={latest} /> },
        ]}
      />
    </Card>
  );
}

/** The first sentence, which says how health changed, and what follows it. A figure's point ends no sentence. */
function split(text: string): [string, string] {
  const end = text.search(/\.(\s|$)/);
  return end < 0 ? [text, ""] : [text.slice(0, end + 1), text.slice(end + 1).trim()];
}

function Counts({ counts }: { counts: Event["counts"] }) {
  return Object.entries(counts).map(([name, n]) => (
    <div key={name} title={CHANGES[name as ChangeName].words} className="whitespace-nowrap">
      <span aria-hidden="true">{CHANGES[name as ChangeName].sign}</span> {count(n)}
      <span className="sr-only"> {CHANGES[name as ChangeName].words}</span>
    </div>
  ));
}

/** The to-dos that hold findings of an event, or the way to one. */
function EventTodos({
  data,
  event,
  place,
  latest,
}: {
  data: Comparison;
  event: Event;
  place: number;
  latest: boolean;
}) {
  const { site } = useSite();
  const mayAdd = useMay()("add_todo");
  const todos = data.event_todos.filter((todo) => todo.event === place);
  if (todos.length > 0)
    return todos.map((todo) => (
      <Link
        key={todo.todo_id}
        to={`/todos/${todo.todo_id}`}
        className="block min-h-[24px] leading-[24px] whitespace-nowrap"
        title={todo.title}
      >
        {todo.todo_id} {todo.state}
      </Link>
    ));
  if (!latest || !mayAdd || !THERE.some((name) => event.counts[name])) return null;
  return (
    <MakeTodo
      quiet
      site={site}
      compared={{ base: data.base, head: data.head, event: place }}
      title={event.title}
      label="Create"
    />
  );
}

type Step = { name: string; words: string; range: [number, number]; label: string; fill: string };
/** A step that is too small to be seen is drawn this high, in points. */
const LEAST = 0.8;

/** The way from the one health to the other, a step for each event. */
export function steps(data: Comparison): Step[] {
  let at = data.base_health ?? 0;
  const whole = (name: string, health: number): Step => ({
    name,
    words: "health",
    range: [0, health],
    label: points(health),
    fill: "var(--accent)",
  });
  const between = data.events.map((event, place): Step => {
    const share = event.shown ?? 0;
    const from = at;
    at += share;
    return {
      name: String(place + 1),
      words: event.title,
      range: span(from, at),
      label: signed(share),
      fill: share < 0 ? "var(--bad)" : share > 0 ? "var(--good)" : "var(--ink-3)",
    };
  });
  return [
    whole(data.base_at ? day(data.base_at) : "then", data.base_health ?? 0),
    ...between,
    whole(data.head_at ? day(data.head_at) : "now", data.head_health ?? 0),
  ];
}

function span(from: number, to: number): [number, number] {
  const [low, high] = from < to ? [from, to] : [to, from];
  return high - low >= LEAST ? [low, high] : [low - LEAST / 2, low + LEAST / 2];
}

export function Bridge({ data }: { data: Comparison }) {
  const rows = steps(data);
  const said = rows.map((row) => `${row.words} ${row.label}`).join(", ");
  return (
    <Card title={`From ${points(data.base_health)} to ${points(data.head_health)}`} aside="health, high is good">
      <div role="img" aria-label={`Steps of health: ${said}`} className="h-56">
        <ResponsiveContainer width="100%" height="100%">
          <BarChart data={rows} margin={{ top: 18, right: 4, bottom: 0, left: 4 }} barCategoryGap="18%">
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="name"
              stroke="var(--ink-3)"
              fontSize={11}
              interval={0}
              tickLine={false}
              tickFormatter={(name: string) => name.replace(/^\w{3} /, "")}
            />
            <YAxis
              domain={[0, 100]}
              ticks={[0, 50, 100]}
              orientation="right"
              width={28}
              stroke="var(--ink-3)"
              fontSize={11}
            />
            <Tooltip
              cursor={{ fill: "var(--sunk)", opacity: 0.5 }}
              content={({ active, payload }) => {
                const step = payload?.[0]?.payload as Step | undefined;
                return active && step ? (
                  <div className="bg-ink text-paper max-w-72 rounded-md px-2 py-1 text-sm">
                    {step.label} · {step.words}
                  </div>
                ) : null;
              }}
            />
            <Bar dataKey="range" isAnimationActive={false}>
              {rows.map((row) => (
                <Cell key={row.name} fill={row.fill} />
              ))}
              <LabelList dataKey="label" position="top" fill="var(--ink)" fontSize={11} />
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
      <p className="text-ink-3 text-sm">
        The numbers are those of the events. Every step is exact; the steps add up to the change.
      </p>
    </Card>
  );
}
