import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { todos } from "../../api/queries/work";
import type { Todo } from "../../api/types";
import { day, gain, plural } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Bar, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { ChangeMany } from "./change-many";
import type { Filters } from "./filters";

const LIVE: readonly Todo["state"][] = ["open", "doing", "done"];

/** Sorted by the service, which gives a part at a time. */
const COLUMNS: Column<Todo>[] = [
  { head: "Severity", sort: "severity", cell: (r) => <Severity name={r.severity} /> },
  {
    head: "To-do",
    sort: "title",
    className: "min-w-56",
    cell: (r) => (
      <>
        <Link to={`/todos/${r.id}`} className="text-ink font-semibold break-words">
          {r.title}
        </Link>
        <div className="text-ink-3 text-sm">
          {r.client_name}
          {r.flag && <span className="text-bad"> · {r.flag}</span>}
          {r.labels.map((label) => ` · ${label}`)}
        </div>
      </>
    ),
  },
  { head: "Assignee", sort: "assignee", cell: (r) => r.assignee || <span className="text-ink-3">Unassigned</span> },
  { head: "Due", sort: "due", cell: (r) => <Due todo={r} /> },
  {
    head: "Priority",
    sort: "priority",
    cell: (r) => (
      <span
        className={r.priority === "urgent" ? "text-bad font-semibold" : r.priority === "normal" ? "text-ink-3" : ""}
      >
        {r.priority}
      </span>
    ),
  },
  { head: "State", sort: "state", cell: (r) => (r.state === "done" ? "done, awaits audit" : r.state) },
  {
    head: "Gain",
    sort: "gain",
    number: true,
    cell: (r) =>
      r.gain && LIVE.includes(r.state) ? (
        <span className="text-good">{gain(r.gain)}</span>
      ) : (
        <span className="text-ink-3">·</span>
      ),
  },
  {
    head: "Cleared",
    sort: "cleared",
    cell: (r) =>
      r.places ? (
        <>
          <Bar share={r.cleared / r.places} label={`${r.cleared} of ${r.places}`} />
          <span className="text-ink-3 text-sm">
            {r.cleared} of {r.places}
          </span>
        </>
      ) : (
        <span className="text-ink-3">by hand</span>
      ),
  },
];

export function Due({ todo }: { todo: Todo }) {
  return (
    <span className={`whitespace-nowrap ${todo.overdue ? "text-bad font-semibold" : ""}`}>
      {day(todo.due)}
      {todo.overdue && <span className="block text-sm">{plural(todo.days_late, "day")} overdue</span>}
    </span>
  );
}

export function TodoList({
  filters,
  sort,
  onSort,
}: {
  filters: Filters;
  sort: string;
  onSort: (sort: string) => void;
}) {
  const may = useMay();
  const found = useInfiniteQuery(todos.list({ ...filters, sort }));
  const by = COLUMNS.find((c) => c.sort === sort.replace("-", ""));
  return (
    <Card>
      <Loaded query={found} tall={10}>
        {(data) => {
          const total = data.pages[0]?.total ?? 0;
          return (
            <Table
              rows={data.pages.flatMap((part) => part.items)}
              id={(r) => r.id}
              name="todos"
              caption={`To-dos by ${(by?.head ?? "due").toLowerCase()}`}
              note={plural(total, "to-do")}
              empty="No to-dos here. Create them from the findings of a site, or with New to-do."
              sorted={by && (sort.startsWith("-") ? `-${by.head}` : by.head)}
              onSort={(order) => {
                const column = COLUMNS.find((c) => c.head === order.replace(/^-/, ""));
                if (typeof column?.sort === "string") onSort((order.startsWith("-") ? "-" : "") + column.sort);
              }}
              more={{ total, load: nextPart(found) }}
              act={may("change_todos") ? (chosen, clear) => <ChangeMany todos={chosen} done={clear} /> : undefined}
              columns={COLUMNS}
            />
          );
        }}
      </Loaded>
    </Card>
  );
}
