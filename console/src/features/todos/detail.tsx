import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useOutletContext, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { todos } from "../../api/queries/work";
import type { Member, Todo, TodoChange, TodoState } from "../../api/types";
import { day, gain, moment, place } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Address, Button, buttonClass, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Severity } from "../../ui/signs";
import { Markdown } from "../../ui/markdown";
import { ALL } from "../../ui/meanwhile";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { FindingRuns } from "../site/history";
import { InSource } from "../site/in-source";
import { UNASSIGNED, useAssignable } from "./assignable";
import { Subject } from "../site/subject";
import { Attachments } from "./attachments";
import { DidItPay } from "./paid";
import { Comment } from "./comment";
import { Share } from "./share";
import { labelsIn, NEXT, priorityChoices } from "./fields";

export function TodoScreen() {
  const { todoId } = useParams();
  const todo = useQuery(todos.one(Number(todoId)));
  return (
    <Loaded query={todo} tall={12}>
      {(data) => <Detail todo={data} />}
    </Loaded>
  );
}

function Detail({ todo }: { todo: Todo }) {
  const change = useChange(todos.change(todo.id, todo.version));
  const check = useChange(todos.check(todo.id));
  const say = useSay();
  const mine = useMine(todo);
  const may = useMay();
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
        <a className={buttonClass()} href={`/api/v1/todos/${todo.id}/sheet`} target="_blank" rel="noreferrer">
          Sheet to print
        </a>
        {mine && todo.places > 0 && LIVE.includes(todo.state) && (
          <Button
            disabled={check.isPending}
            onClick={() => check.mutate(undefined, { onSuccess: (now) => say(now.events.at(-1)?.text ?? "Checked.") })}
          >
            {check.isPending ? "Checking…" : "Check now"}
          </Button>
        )}
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
        {todo.approval === "waiting" && <span>waiting for the client to agree</span>}
        {todo.approval === "given" && <span className="text-good">the client agreed</span>}
        {todo.priority !== "normal" && <span>priority {todo.priority}</span>}
        {todo.gain !== null && todo.gain > 0 && (
          <span>
            worth <b className="text-good font-semibold">{gain(todo.gain)}</b> points
          </span>
        )}
        {todo.labels.map((label) => (
          <Link
            key={label}
            to={`/todos?label=${encodeURIComponent(label)}`}
            className="border-line-strong text-ink-2 rounded-full border px-2 text-sm"
          >
            {label}
          </Link>
        ))}
        {todo.check && <Link to={`/sites/${todo.site_id}/checks/${todo.check}`}>how to fix it</Link>}
      </div>
      {(change.error ?? check.error) && (
        <div className="mb-3">
          {[change.error, check.error].map((error, i) => error && <Trouble key={i} error={error} />)}
        </div>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[1.6fr_1fr]">
        <div className="min-w-0 space-y-3.5">
          {todo.note && (
            <Card title="Note">
              <Markdown text={todo.note} />
            </Card>
          )}
          {todo.state === "confirmed" && may("get_paid") && <DidItPay todo={todo} />}
          <Attachments todo={todo} mine={mine} />
          <Card title="Places" aside="as of the last run">
            <Table
              rows={[...todo.linked].sort((a, b) => ORDER.indexOf(a.outcome) - ORDER.indexOf(b.outcome))}
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
                      <div>
                        {r.outcome === "still" && (
                          <InSource runId={`latest-${todo.site_id}`} fingerprint={r.fingerprint} />
                        )}
                        <FindingRuns siteId={todo.site_id} fingerprint={r.fingerprint} />
                      </div>
                    </>
                  ),
                },
              ]}
            />
          </Card>
        </div>
        <div className="min-w-0 space-y-3.5">
          {mine && (
            <Assign key={todo.id} todo={todo} onChange={(values, done) => change.mutate(values, { onSuccess: done })} />
          )}
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
          {mine && <NoteEditor key={`note ${todo.id}`} todo={todo} send={change.mutate} />}
          {mine && may("add_todo_link") && <Share id={todo.id} />}
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

/** A form takes new values whole, also those that somebody is typing. */

/** What is left to do comes first. */
const ORDER: readonly Todo["linked"][number]["outcome"][] = ["still", "unverified", "cleared"];
const LIVE: readonly TodoState[] = ["open", "doing", "done"];

/** Whether the member may change this to-do: a fixer those that are given to that person. */
function useMine(todo: Todo): boolean {
  const me = useOutletContext<Member>();
  return useMay()("change_todo") && (me.role !== "fixer" || todo.assignee_id === me.id);
}

export type Send = ReturnType<typeof useChange<Todo, TodoChange>>["mutate"];

function NoteEditor({ todo, send }: { todo: Todo; send: Send }) {
  // What is being typed stays, whatever else changes of the to-do meanwhile.
  const form = useForm({ values: { note: todo.note }, resetOptions: { keepDirtyValues: true } });
  const say = useSay();
  // The note as it stood when one began to write; another one by now is told, so that nothing is replaced unseen.
  const [begun, setBegun] = useState(todo.note);
  const typing = Boolean(form.formState.dirtyFields.note);
  if (!typing && begun !== todo.note) setBegun(todo.note);
  return (
    <Card title={todo.note ? "Edit note" : "Write a note"}>
      <Form
        form={form}
        className="space-y-2"
        onSend={(values) =>
          send(values, {
            onSuccess: () => {
              form.reset(values, ALL);
              say("The note is saved.");
            },
          })
        }
      >
        <Field
          name="note"
          label="Note"
          kind="long"
          rows={4}
          hint="Markdown: **bold**, lists with -, `code`, [links](https://…)"
        />
        {typing && begun !== todo.note && (
          <div role="alert" className="border-bad bg-sunk space-y-1.5 border-l-2 px-3 py-1.5">
            <p>Somebody has changed the note since you began to write. It says now:</p>
            <Markdown text={todo.note || "(nothing)"} />
            <p>
              Saving replaces it with yours.{" "}
              <LinkButton onClick={() => form.reset({ note: todo.note }, ALL)}>Take theirs instead</LinkButton>
            </p>
          </div>
        )}
        <Button type="submit" disabled={!typing}>
          Save note
        </Button>
      </Form>
    </Card>
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

/** Who does it until when, how soon and how long it takes, who is told of it. Choices are sent at once, what is typed with the button. */
function Assign({ todo, onChange }: { todo: Todo; onChange: (change: TodoChange, done?: () => void) => void }) {
  const people = useAssignable(todo.site_id);
  const form = useForm({
    resetOptions: { keepDirtyValues: true },
    values: {
      assignee: String(todo.assignee_id ?? ""),
      due: todo.due ?? "",
      priority: todo.priority,
      hours: todo.estimate_hours === null ? "" : String(todo.estimate_hours),
      labels: todo.labels.join(", "),
      watcher: "",
    },
  });
  const typed = form.formState.dirtyFields;
  /** What was chosen is sent at once, and no edit of one's own any more. */
  const choose = (name: "assignee" | "priority" | "watcher", value: string, change: TodoChange) => {
    onChange(change);
    form.resetField(name, { defaultValue: value });
  };
  const watchers = todo.watchers.map((watcher) => watcher.id);
  return (
    <Card title="Who and when">
      <Form
        form={form}
        className="space-y-2.5"
        onSend={(values) =>
          onChange(
            {
              ...(typed.due ? { due: values.due || null } : {}),
              ...(typed.hours ? { estimate_hours: values.hours ? Number(values.hours) : null } : {}),
              ...(typed.labels ? { labels: labelsIn(values.labels) } : {}),
            },
            () => form.reset(values, ALL),
          )
        }
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <Field
            name="assignee"
            label="Assignee"
            kind="choice"
            choices={[UNASSIGNED, ...people]}
            onChanged={(id) => choose("assignee", String(id), { assignee: id ? Number(id) : null })}
          />
          <Field name="due" label="Due" kind="day" />
          <Field
            name="priority"
            label="Priority"
            kind="choice"
            choices={priorityChoices}
            onChanged={(name) => choose("priority", String(name), { priority: name as Todo["priority"] })}
          />
          <Field name="hours" label="Estimate in hours" kind="number" />
        </div>
        <Field name="labels" label="Labels" hint="Separate them with commas" />
        {(typed.due || typed.hours || typed.labels) && <Button type="submit">Save changes</Button>}
        <Field
          name="watcher"
          label="Watchers"
          kind="choice"
          placeholder="Add a watcher"
          choices={people.filter((person) => !watchers.includes(Number(person.value)))}
          onChanged={(id) => id && choose("watcher", "", { watchers: [...watchers, Number(id)] })}
        />
        <ul className="flex flex-wrap gap-x-3">
          {todo.watchers.map((watcher) => (
            <li key={watcher.id}>
              {watcher.name}{" "}
              <button
                type="button"
                className="text-ink-3 hover:text-bad px-1"
                aria-label={`Remove ${watcher.name} from the watchers`}
                onClick={() => onChange({ watchers: watchers.filter((id) => id !== watcher.id) })}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      </Form>
    </Card>
  );
}
