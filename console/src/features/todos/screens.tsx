import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Member, Todo, TodoChange } from "../../api/client";
import { query } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, moment, place } from "../../lib/words";
import { Address, Button, Card, Chip, Field, Heading, Loaded, Table, Trouble } from "../../ui/parts";
import { Bar, Severity } from "../../ui/signs";

const STATES = ["live", "open", "doing", "done", "confirmed", "dropped"];

export function TodosScreen() {
  const [view, setView] = useSearchParams();
  const state = view.get("state") ?? "live";
  const who = view.get("who") ?? "";
  const members = useRead<Member[]>("/members");
  const todos = useRead<Todo[]>(`/todos${query({ state, assignee: who })}`);
  const set = (name: string, value: string) =>
    setView({ ...Object.fromEntries(view), [name]: value }, { replace: true });
  const people = (members.data ?? []).filter((m) => m.role !== "guest" && (m.open_todos > 0 || m.role !== "owner"));
  return (
    <>
      <Heading title="To-dos" />
      <div className="mt-3 mb-3.5 flex flex-wrap gap-1.5">
        {STATES.map((name) => (
          <Chip key={name} on={state === name} onClick={() => set("state", name)}>
            {name}
          </Chip>
        ))}
        <span className="w-3" />
        <Chip on={!who} onClick={() => set("who", "")}>
          everybody
        </Chip>
        {people.map((m) => (
          <Chip key={m.id} on={who === String(m.id)} onClick={() => set("who", String(m.id))}>
            {m.name.split(" ")[0]} {m.open_todos}
            {m.overdue_todos > 0 && <span className="text-bad"> ({m.overdue_todos} late)</span>}
          </Chip>
        ))}
      </div>
      <Card>
        <Loaded query={todos} tall={10}>
          {(rows) => (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="To-dos by due date"
              empty="No to-dos of this kind. They are made from the findings of a site."
              columns={[
                { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
                {
                  head: "To-do",
                  cell: (r) => (
                    <>
                      <Link to={`/todos/${r.id}`} className="text-ink font-semibold break-words">
                        {r.title}
                      </Link>
                      <div className="text-ink-3 text-sm">
                        {r.client_name}
                        {r.flag && <span className="text-bad"> · {r.flag}</span>}
                      </div>
                    </>
                  ),
                },
                { head: "State", cell: (r) => r.state },
                { head: "Who", cell: (r) => r.assignee || <span className="text-ink-3">nobody yet</span> },
                { head: "Due", cell: (r) => <Due todo={r} /> },
                {
                  head: "Cleared",
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
              ]}
            />
          )}
        </Loaded>
      </Card>
    </>
  );
}

function Due({ todo }: { todo: Todo }) {
  return (
    <span className={`whitespace-nowrap ${todo.overdue ? "text-bad font-semibold" : ""}`}>
      {day(todo.due)}
      {todo.overdue && (
        <span className="block text-sm">{todo.days_late === 1 ? "1 day late" : `${todo.days_late} days late`}</span>
      )}
    </span>
  );
}

export function TodoScreen() {
  const { todoId } = useParams();
  const todo = useRead<Todo>(`/todos/${todoId}`);
  return (
    <Loaded query={todo} tall={12}>
      {(data) => <Detail todo={data} />}
    </Loaded>
  );
}

const NEXT: Record<string, [string, string][]> = {
  open: [
    ["doing", "Begin"],
    ["done", "Mark done"],
  ],
  doing: [
    ["done", "Mark done"],
    ["open", "Put back"],
  ],
  done: [["open", "Open again"]],
  confirmed: [["open", "Open again"]],
  dropped: [["open", "Open again"]],
};

function Detail({ todo }: { todo: Todo }) {
  const change = useChange<TodoChange>("PATCH", `/todos/${todo.id}`, todo.version);
  const [comment, setComment] = useState("");
  const [reason, setReason] = useState("");
  return (
    <>
      <Heading
        over={
          <>
            <Link to="/todos">To-dos</Link> · <Link to={`/sites/${todo.site_id}`}>{todo.client_name}</Link>
          </>
        }
        title={todo.title}
      >
        {(NEXT[todo.state] ?? []).map(([state, label], i) => (
          <Button
            key={state}
            main={i === 0}
            disabled={change.isPending}
            onClick={() => change.mutate({ state: state as TodoChange["state"] })}
          >
            {label}
          </Button>
        ))}
      </Heading>
      <div className="mt-1.5 mb-3 flex flex-wrap items-center gap-x-3.5">
        <Severity name={todo.severity} />
        <b className="font-semibold">{todo.state}</b>
        {todo.flag && <span className="text-bad">{todo.flag}</span>}
        <span className={todo.overdue ? "text-bad" : ""}>
          due {day(todo.due)}
          {todo.overdue && `, ${todo.days_late} days late`}
        </span>
        {todo.places > 0 && (
          <span>
            {todo.cleared} of {todo.places} places cleared
          </span>
        )}
        {todo.check && <Link to={`/sites/${todo.site_id}/checks/${todo.check}`}>how to fix it</Link>}
      </div>
      {change.error && (
        <div className="mb-3">
          <Trouble error={change.error} />
        </div>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[1.6fr_1fr]">
        <div className="min-w-0 space-y-3.5">
          {todo.note && (
            <Card title="Note">
              <p className="whitespace-pre-wrap">{todo.note}</p>
            </Card>
          )}
          <Card title="Places" aside="as the last run saw them">
            <Table
              rows={todo.linked.slice(0, 300)}
              id={(r) => r.fingerprint ?? ""}
              caption="Places of the to-do"
              empty="This to-do was made by hand; runs leave it alone."
              columns={[
                {
                  head: "Last run",
                  cell: (r) => (
                    <span
                      className={
                        r.outcome === "cleared" ? "text-good" : r.outcome === "still" ? "text-bad" : "text-ink-3"
                      }
                    >
                      {r.outcome === "still" ? "■ still there" : r.outcome === "cleared" ? "▼ cleared" : "▨ unverified"}
                    </span>
                  ),
                },
                {
                  head: "Page",
                  className: "min-w-44",
                  cell: (r) =>
                    r.subject === "site" ? (
                      "the whole site"
                    ) : (
                      <Link to={`/sites/${todo.site_id}/page?url=${encodeURIComponent(r.subject ?? "")}`}>
                        <Address text={place(r.subject ?? "", todo.site_host)} chars={50} />
                      </Link>
                    ),
                },
                { head: "Place", cell: (r) => <Address text={place(r.place ?? "", todo.site_host)} chars={46} /> },
              ]}
            />
          </Card>
        </div>
        <div className="min-w-0 space-y-3.5">
          <Assign todo={todo} onChange={(values) => change.mutate(values)} />
          <Card title="What happened">
            <ul>
              {todo.events.map((event, i) => (
                <li key={i} className="border-line border-b py-1.5 last:border-b-0">
                  <span className="text-ink-3 block text-sm">
                    {moment(event.at)} · {event.who}
                  </span>
                  <span className="break-words">{event.text}</span>
                </li>
              ))}
            </ul>
            <form
              className="mt-2 flex gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                change.mutate({ comment }, { onSuccess: () => setComment("") });
              }}
            >
              <input
                aria-label="Comment"
                className="border-line-strong bg-surface min-w-0 flex-1 rounded-md border px-2.5 py-1.25"
                required
                value={comment}
                onChange={(e) => setComment(e.target.value)}
              />
              <Button type="submit">Comment</Button>
            </form>
          </Card>
          {["open", "doing", "done"].includes(todo.state) && (
            <Card title="Drop it">
              <form
                className="flex gap-2"
                onSubmit={(e) => {
                  e.preventDefault();
                  change.mutate({ state: "dropped", drop_reason: reason });
                }}
              >
                <input
                  aria-label="Reason for dropping"
                  placeholder="Reason"
                  className="border-line-strong bg-surface min-w-0 flex-1 rounded-md border px-2.5 py-1.25"
                  required
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                />
                <Button type="submit">Drop</Button>
              </form>
            </Card>
          )}
        </div>
      </div>
    </>
  );
}

function Assign({ todo, onChange }: { todo: Todo; onChange: (change: TodoChange) => void }) {
  const members = useRead<Member[]>("/members");
  return (
    <Card title="Who and when">
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label="Who">
          {(c) => (
            <select
              className={c}
              value={todo.assignee_id ?? ""}
              onChange={(e) => onChange({ assignee: e.target.value ? Number(e.target.value) : null })}
            >
              <option value="">nobody yet</option>
              {(members.data ?? [])
                .filter((m) => m.role !== "guest" && m.active)
                .map((m) => (
                  <option key={m.id} value={m.id}>
                    {m.name}
                  </option>
                ))}
            </select>
          )}
        </Field>
        <Field label="Due">
          {(c) => (
            <input
              className={c}
              type="date"
              defaultValue={todo.due ?? ""}
              onBlur={(e) => e.target.value !== (todo.due ?? "") && onChange({ due: e.target.value || null })}
            />
          )}
        </Field>
      </div>
    </Card>
  );
}
