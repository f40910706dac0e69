import { useQuery } from "@tanstack/react-query";
import { type DragEvent, useState } from "react";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { todos } from "../../api/queries/work";
import type { Todo, TodoState } from "../../api/types";
import { count, gain, plural } from "../../lib/words";
import { LinkButton } from "../../ui/parts";
import { Severity } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { NEXT } from "./fields";
import type { Filters } from "./filters";
import { Due } from "./list";

const COLUMNS: readonly [TodoState, string][] = [
  ["open", "Open"],
  ["doing", "Doing"],
  ["done", "Done, awaits audit"],
  ["confirmed", "Confirmed"],
];
const DRAGGED = "application/x-hodcarrier-todo";

/** To-dos by their state. A card is moved by dragging it, or by its button. */
export function Board({ filters }: { filters: Filters }) {
  const may = useMay();
  const say = useSay();
  const found = useQuery(todos.all({ ...filters, state: undefined }));
  const change = useChange(todos.changeAll());
  const move = (todo: Todo, state: TodoState) =>
    change.mutate(
      { changes: [{ id: todo.id, version: todo.version, state }], undo: false },
      {
        onSuccess: ({ undo }) => say(`The to-do is ${state} now.`, () => change.mutate({ changes: undo, undo: true })),
      },
    );
  return (
    <Loaded query={found} tall={10}>
      {(data) => (
        <>
          {change.error && <Trouble error={change.error} />}
          {data.items.length < data.total && (
            <p className="text-ink-3 mb-2 text-sm">
              The first {count(data.items.length)} of {plural(data.total, "to-do")}. Narrow them down to see the others.
            </p>
          )}
          <div className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4">
            {COLUMNS.map(([state, title]) => (
              <Column
                key={state}
                state={state}
                title={title}
                rows={data.items.filter((todo) => todo.state === state)}
                all={data.items}
                move={may("change_todos") ? move : undefined}
              />
            ))}
          </div>
        </>
      )}
    </Loaded>
  );
}

function Column({
  state,
  title,
  rows,
  all,
  move,
}: {
  state: TodoState;
  title: string;
  rows: readonly Todo[];
  all: readonly Todo[];
  move?: (todo: Todo, state: TodoState) => void;
}) {
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const todo = all.find((each) => String(each.id) === event.dataTransfer.getData(DRAGGED));
    if (todo && NEXT[todo.state].some(([next]) => next === state)) move?.(todo, state);
  };
  return (
    <section
      aria-label={title}
      className={`border-line min-w-0 rounded-md border p-2 ${over ? "bg-accent-soft" : "bg-sunk/40"}`}
      onDragOver={(event) => {
        if (move && state !== "confirmed") {
          event.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <h2 className="mb-2 px-1 font-semibold">
        {title} <span className="text-ink-3 text-sm font-normal">{count(rows.length)}</span>
      </h2>
      <ul className="space-y-2">
        {rows.map((todo) => (
          <li
            key={todo.id}
            draggable={move !== undefined}
            onDragStart={(event) => event.dataTransfer.setData(DRAGGED, String(todo.id))}
            className="bg-surface border-line rounded-md border px-2.5 py-2"
          >
            <Link to={`/todos/${todo.id}`} className="text-ink font-semibold break-words">
              {todo.title}
            </Link>
            <div className="text-ink-3 text-sm">
              {todo.client_name}
              {todo.flag && <span className="text-bad"> · {todo.flag}</span>}
            </div>
            <div className="mt-1 flex flex-wrap items-baseline justify-between gap-x-3 text-sm">
              <Severity name={todo.severity} />
              {todo.gain !== null && todo.gain > 0 && todo.state !== "confirmed" && (
                <span className="text-good">{gain(todo.gain)}</span>
              )}
            </div>
            <div className="mt-1 flex flex-wrap items-baseline justify-between gap-x-3 text-sm">
              <span>{todo.assignee || <span className="text-ink-3">Unassigned</span>}</span>
              <Due todo={todo} />
            </div>
            {move && (
              <div className="mt-1 flex flex-wrap gap-x-3 text-sm">
                {NEXT[todo.state].map(([next, label]) => (
                  <LinkButton key={next} aria-label={`${label}: ${todo.title}`} onClick={() => move(todo, next)}>
                    {label}
                  </LinkButton>
                ))}
              </div>
            )}
          </li>
        ))}
        {rows.length === 0 && <li className="text-ink-3 px-1 text-sm">none</li>}
      </ul>
    </section>
  );
}
