import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { todos } from "../../api/queries/work";
import type { Todo } from "../../api/types";
import { isoDay } from "../../lib/dates";
import { count, plural } from "../../lib/words";
import { Button, Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { after, type Filters, monday } from "./filters";

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const SHOWN_A_DAY = 4;

/** The weeks that a month touches, each from Monday to Sunday. */
export function weeksOf(month: Date): Date[][] {
  const weeks: Date[][] = [];
  const last = new Date(month.getFullYear(), month.getMonth() + 1, 0);
  for (let first = monday(month); first <= last; first = after(first, 7))
    weeks.push(WEEKDAYS.map((_, place) => after(first, place)));
  return weeks;
}

/** To-dos on the days they are due, a month at a time. */
export function Calendar({
  filters,
  month,
  onMonth,
}: {
  filters: Filters;
  month: string;
  onMonth: (month: string) => void;
}) {
  const today = new Date();
  const asked = /^(\d{4})-(0[1-9]|1[0-2])$/.exec(month);
  const first = asked
    ? new Date(Number(asked[1]), Number(asked[2]) - 1, 1)
    : new Date(today.getFullYear(), today.getMonth(), 1);
  const weeks = weeksOf(first);
  const [from, to] = [weeks[0]?.[0] ?? first, weeks.at(-1)?.at(-1) ?? first];
  const found = useQuery(
    todos.all({ ...filters, due: undefined, due_from: isoDay(from), due_to: isoDay(to), sort: "due" }),
  );
  const move = (months: number) =>
    onMonth(isoDay(new Date(first.getFullYear(), first.getMonth() + months, 1)).slice(0, 7));
  const title = first.toLocaleDateString("en-GB", { month: "long", year: "numeric" });
  return (
    <Card
      title={title}
      aside={
        <span className="flex gap-1.5">
          <Button aria-label="Previous month" onClick={() => move(-1)}>
            ←
          </Button>
          <Button onClick={() => onMonth("")}>Today</Button>
          <Button aria-label="Next month" onClick={() => move(1)}>
            →
          </Button>
        </span>
      }
    >
      <Loaded query={found} tall={12}>
        {(data) => (
          <>
            {data.items.length < data.total && (
              <p className="text-ink-3 mb-2 text-sm">
                The first {count(data.items.length)} of {plural(data.total, "to-do")}. Narrow them down to see the
                others.
              </p>
            )}
            <div role="grid" aria-label={`To-dos due in ${title}`}>
              <div role="row" className="grid grid-cols-7">
                {WEEKDAYS.map((name) => (
                  <div key={name} role="columnheader" className="text-ink-3 px-1.5 pb-1 text-sm">
                    {name}
                  </div>
                ))}
              </div>
              {weeks.map((week) => (
                <div key={isoDay(week[0] ?? first)} role="row" className="grid grid-cols-7">
                  {week.map((date) => (
                    <Day
                      key={isoDay(date)}
                      date={date}
                      inside={date.getMonth() === first.getMonth()}
                      today={isoDay(date) === isoDay(today)}
                      rows={data.items.filter((todo) => todo.due === isoDay(date))}
                    />
                  ))}
                </div>
              ))}
            </div>
          </>
        )}
      </Loaded>
    </Card>
  );
}

function Day({ date, inside, today, rows }: { date: Date; inside: boolean; today: boolean; rows: readonly Todo[] }) {
  const day = isoDay(date);
  return (
    <div role="gridcell" className={`border-line min-h-24 min-w-0 border p-1 ${inside ? "" : "bg-sunk/40"}`}>
      <span className={`px-0.5 text-sm tabular-nums ${today ? "text-accent font-semibold" : "text-ink-3"}`}>
        {date.getDate()}
        {today && " today"}
      </span>
      <ul>
        {rows.slice(0, SHOWN_A_DAY).map((todo) => (
          <li key={todo.id}>
            <Link
              to={`/todos/${todo.id}`}
              title={`${todo.title}, ${todo.client_name}, ${todo.assignee || "unassigned"}`}
              className={`block min-h-[24px] truncate text-sm leading-[24px] ${todo.overdue ? "text-bad font-semibold" : todo.state === "done" || todo.state === "confirmed" ? "text-ink-3" : "text-ink"}`}
            >
              {todo.title}
            </Link>
          </li>
        ))}
        {rows.length > SHOWN_A_DAY && (
          <li>
            <Link to={`/todos?day=${day}`} className="block min-h-[24px] text-sm leading-[24px]">
              {count(rows.length - SHOWN_A_DAY)} more
            </Link>
          </li>
        )}
      </ul>
    </div>
  );
}
