import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Link, useOutletContext, useParams, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { members } from "../../api/queries/team";
import { todos } from "../../api/queries/work";
import type { Member, Todo, TodoChange, TodoState } from "../../api/types";
import { count, day, moment, place } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Address, Button, Card, Chip, Heading, Title } from "../../ui/parts";
import { Bar, Severity } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { assignable } from "../site/make-todo";
import { InSource } from "../site/in-source";
import { Subject } from "../site/subject";

const STATES = ["live", "open", "doing", "done", "confirmed", "dropped"] as const satisfies (TodoState | "live")[];

/** Sorted by the service, which gives a part at a time. */
const COLUMNS: Column<Todo>[] = [
  { head: "Severity", sort: "severity", cell: (r) => <Severity name={r.severity} /> },
  {
    head: "To-do",
    sort: "title",
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
  { head: "State", sort: "state", cell: (r) => r.state },
  { head: "Who", sort: "assignee", cell: (r) => r.assignee || <span className="text-ink-3">Unassigned</span> },
  { head: "Due", sort: "due", cell: (r) => <Due todo={r} /> },
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

export function TodosScreen() {
  const [view, setView] = useSearchParams();
  const state = STATES.find((name) => name === view.get("state")) ?? "live";
  const who = view.get("who") ?? "";
  const everybody = useQuery(members.all());
  const sort = view.get("sort") ?? "due";
  const by = COLUMNS.find((c) => c.sort === sort.replace("-", ""));
  const found = useInfiniteQuery(todos.list(state, who ? Number(who) : undefined, sort));
  const set = (name: string, value: string) =>
    setView({ ...Object.fromEntries(view), [name]: value }, { replace: true });
  const people = (everybody.data ?? []).filter((m) => m.role !== "guest" && (m.open_todos > 0 || m.role !== "owner"));
  return (
    <>
      <Title of={["To-dos"]} />
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
        <Loaded query={found} tall={10}>
          {(data) => {
            const total = data.pages[0]?.total ?? 0;
            return (
              <Table
                rows={data.pages.flatMap((part) => part.items)}
                id={(r) => r.id}
                name="todos"
                caption={`To-dos by ${(by?.head ?? "due").toLowerCase()}`}
                note={total > (data.pages[0]?.items.length ?? 0) ? `${count(total)} to-dos` : undefined}
                empty="No to-dos here. Create them from the findings of a site."
                sorted={by && (sort.startsWith("-") ? `-${by.head}` : by.head)}
                onSort={(order) => {
                  const column = COLUMNS.find((c) => c.head === order.replace(/^-/, ""));
                  if (typeof column?.sort === "string") set("sort", (order.startsWith("-") ? "-" : "") + column.sort);
                }}
                more={{ total, load: nextPart(found) }}
                columns={COLUMNS}
              />
            );
          }}
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
  const todo = useQuery(todos.one(Number(todoId)));
  return (
    <Loaded query={todo} tall={12}>
      {(data) => <Detail todo={data} />}
    </Loaded>
  );
}

const NEXT: Record<TodoState, [TodoState, string][]> = {
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
  const change = useChange(todos.change(todo.id, todo.version));
  const say = useSay();
  const mine = useMine(todo);
  return (
    <>
      <Title of={[todo.title, todo.site_host]} />
      <Heading
        over={
          <>
            <Link to="/todos">To-dos</Link> · <Link to={`/sites/${todo.site_id}`}>{todo.client_name}</Link>
          </>
        }
        title={todo.title}
      >
        {mine &&
          NEXT[todo.state].map(([state, label], i) => (
            <Button
              key={state}
              main={i === 0}
              disabled={change.isPending}
              onClick={() => change.mutate({ state }, { onSuccess: () => say(`The to-do is ${state} now.`) })}
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
          <Card title="Places" aside="as of the last run">
            <Table
              rows={todo.linked}
              id={(r) => r.fingerprint}
              caption="Places of the to-do"
              empty="This to-do has no findings linked to it, so runs do not change it."
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
                  cell: (r) => <Subject siteId={todo.site_id} host={todo.site_host} subject={r.subject} chars={50} />,
                },
                {
                  head: "Place",
                  cell: (r) => (
                    <>
                      <Address text={place(r.place, todo.site_host)} chars={46} />
                      {r.outcome === "still" && (
                        <InSource runId={`latest-${todo.site_id}`} fingerprint={r.fingerprint} />
                      )}
                    </>
                  ),
                },
              ]}
            />
          </Card>
        </div>
        <div className="min-w-0 space-y-3.5">
          {mine && <Assign key={todo.version} todo={todo} onChange={(values) => change.mutate(values)} />}
          <Card title="History">
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
            {mine && <Comment send={change.mutate} />}
          </Card>
          {mine && LIVE.includes(todo.state) && (
            <Card title="Drop to-do">
              <Drop send={change.mutate} />
            </Card>
          )}
        </div>
      </div>
    </>
  );
}

const LIVE: readonly TodoState[] = ["open", "doing", "done"];

/** Whether the member may change this to-do: a fixer those that are given to that person. */
function useMine(todo: Todo): boolean {
  const me = useOutletContext<Member>();
  return useMay()("change_todo") && (me.role !== "fixer" || todo.assignee_id === me.id);
}

type Send = ReturnType<typeof useChange<Todo, TodoChange>>["mutate"];

function Comment({ send }: { send: Send }) {
  const form = useForm({ defaultValues: { comment: "" } });
  return (
    <Form
      form={form}
      className="mt-2 flex items-start gap-2"
      onSend={(values) => send(values, { onSuccess: () => form.reset() })}
    >
      <div className="min-w-0 flex-1">
        <Field name="comment" label="Comment" required />
      </div>
      <Button className="mt-5.5" type="submit">
        Add
      </Button>
    </Form>
  );
}

function Drop({ send }: { send: Send }) {
  const form = useForm({ defaultValues: { reason: "" } });
  return (
    <Form
      form={form}
      className="flex items-start gap-2"
      onSend={({ reason }) => send({ state: "dropped", drop_reason: reason })}
    >
      <div className="min-w-0 flex-1">
        <Field name="reason" label="Reason for dropping" required />
      </div>
      <Button className="mt-5.5" type="submit">
        Drop
      </Button>
    </Form>
  );
}

/** Who does it and until when; a choice is sent at once, a day with the button. */
function Assign({ todo, onChange }: { todo: Todo; onChange: (change: TodoChange) => void }) {
  const everybody = useQuery(members.all());
  const form = useForm({ defaultValues: { assignee: String(todo.assignee_id ?? ""), due: todo.due ?? "" } });
  return (
    <Card title="Assignee and due date">
      <Form form={form} onSend={({ due }) => onChange({ due: due || null })}>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field
            name="assignee"
            label="Who"
            kind="choice"
            choices={assignable(everybody.data ?? [])}
            onChanged={(id) => onChange({ assignee: id ? Number(id) : null })}
          />
          <Field name="due" label="Due" kind="day" />
        </div>
        {form.formState.dirtyFields.due && <Button type="submit">Set due date</Button>}
      </Form>
    </Card>
  );
}
