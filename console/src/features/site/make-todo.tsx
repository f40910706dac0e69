import { useQuery } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { isDay } from "../../lib/dates";
import { todos } from "../../api/queries/work";
import type { ComparedPick, Priority, Site, Todo, TodoDraft, TodoPer, TodosBody } from "../../api/types";
import { count, day, plural } from "../../lib/words";
import { type Choice, Tick } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";
import { useSay } from "../../ui/toast";
import { EarlierRun } from "./context";
import { UNASSIGNED, useAssignable } from "../todos/assignable";
import { labelsIn, priorityChoices } from "../todos/fields";

type Props = {
  site: Site;
  check?: string;
  cause?: number;
  checks?: string[];
  causes?: number[];
  fingerprints?: string[];
  compared?: ComparedPick;
  title: string;
  label: string;
  quiet?: boolean;
  main?: boolean;
  disabled?: boolean;
  made?: () => void;
};

export function MakeTodo({ label, quiet, main, disabled, ...rest }: Props) {
  const [open, setOpen] = useState(false);
  if (useContext(EarlierRun)) return null;
  return (
    <>
      {quiet ? (
        <LinkButton onClick={() => setOpen(true)} aria-label={`Create to-do: ${rest.title}`}>
          {label}
        </LinkButton>
      ) : (
        <Button main={main} disabled={disabled} onClick={() => setOpen(true)}>
          {label}
        </Button>
      )}
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Create to-do"
        description="The next run of the site says whether it is really done."
      >
        {open && <TodoForm {...rest} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

const PER: readonly Choice[] = [
  { value: "one", label: "one to-do" },
  { value: "cause", label: "one for each cause" },
  { value: "page", label: "one for each page" },
  { value: "template", label: "one for each template" },
  { value: "check", label: "one for each check" },
];
const DRAFTS_SHOWN = 8;

export function TodoForm({
  site,
  check,
  cause,
  checks = [],
  causes = [],
  fingerprints,
  compared,
  title,
  made,
  close,
}: Omit<Props, "label"> & { close: () => void }) {
  const people = useAssignable(site.id);
  const form = useForm({
    defaultValues: {
      title,
      per: checks.length + causes.length > 1 ? "cause" : "one",
      assignee: "",
      due: "",
      priority: "normal",
      hours: "",
      labels: "",
      note: "",
    },
  });
  const [assignees, setAssignees] = useState<number[]>([]);
  const [per, due] = useWatch({ control: form.control, name: ["per", "due"] });
  const one = useChange(todos.add());
  const many = useChange(todos.addAll());
  const selection = { site_id: site.id, check: check ?? "", cause, checks, causes, fingerprints, compared };
  const fromFindings = Boolean(
    check || cause !== undefined || checks.length || causes.length || fingerprints?.length || compared,
  );
  const rows = one.data ? [one.data] : many.data;
  const done = () => {
    made?.();
    close();
  };
  const say = useSay();
  // As a notice too: the row that asked may show the to-do by now in place of this form.
  const told = (rows: readonly Todo[]) => say(madeWords(rows));
  if (rows)
    return (
      <div role="status" className="space-y-3">
        <Made rows={rows} />
        <Button main onClick={done}>
          Close
        </Button>
      </div>
    );
  return (
    <Form
      form={form}
      error={one.error ?? many.error}
      onSend={(values) => {
        const fields = {
          ...selection,
          note: values.note,
          priority: values.priority as Priority,
          due: values.due || undefined,
          estimate_hours: values.hours ? Number(values.hours) : undefined,
          labels: labelsIn(values.labels),
          watchers: [],
        };
        if (values.per === "one")
          sendThen(
            one,
            {
              ...fields,
              title: values.title,
              assignee: values.assignee ? Number(values.assignee) : undefined,
            },
            (todo) => told([todo]),
          );
        else sendThen(many, { ...fields, per: values.per as TodoPer, assignees }, told);
      }}
    >
      {fromFindings && <Field name="per" label="Make" kind="choice" choices={PER} />}
      {per === "one" ? (
        <>
          <Field name="title" label="Title" required longest={300} />
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="assignee" label="Assignee" kind="choice" choices={[UNASSIGNED, ...people]} />
            <Field name="due" label="Due" kind="day" hint="Leave empty to set it by severity" />
          </div>
        </>
      ) : (
        <>
          <fieldset>
            <legend className="text-ink-2 mb-1 text-sm font-medium">Spread over</legend>
            <div className="grid gap-1 sm:grid-cols-2">
              {people.map((person) => (
                <label key={person.value} className="flex min-h-[28px] items-center gap-2">
                  <Tick
                    label={person.label}
                    checked={assignees.includes(Number(person.value))}
                    onChange={(on) =>
                      setAssignees(
                        on
                          ? [...assignees, Number(person.value)]
                          : assignees.filter((id) => id !== Number(person.value)),
                      )
                    }
                  />
                  {person.label}
                </label>
              ))}
            </div>
          </fieldset>
          <Field name="due" label="Due" kind="day" hint="Leave empty to set it by severity" />
          <Planned body={{ ...selection, per: per as TodoPer, assignees, due: due || undefined }} />
        </>
      )}
      <details>
        <summary className="text-accent cursor-pointer">Priority, estimate, labels, note</summary>
        <div className="mt-2 space-y-3">
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="priority" label="Priority" kind="choice" choices={priorityChoices} />
            <Field name="hours" label="Estimate in hours" kind="number" />
          </div>
          <Field name="labels" label="Labels" hint="Separate them with commas" />
          <Field name="note" label="Note" kind="long" rows={3} />
        </div>
      </details>
      <div className="flex gap-2">
        <Button main type="submit" disabled={one.isPending || many.isPending}>
          {per === "one" ? "Create to-do" : "Create to-dos"}
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}

/** The to-dos that would be made. */
function Planned({ body }: { body: Partial<TodosBody> & Pick<TodosBody, "site_id"> }) {
  const whole: TodosBody = {
    check: "",
    checks: [],
    causes: [],
    fingerprints: [],
    per: "cause",
    assignees: [],
    priority: "normal",
    labels: [],
    watchers: [],
    note: "",
    ...body,
  };
  const found = useQuery(todos.plan(whole, body.due === undefined || isDay(body.due ?? "")));
  if (found.error)
    return (
      <p className="text-bad text-sm">
        {found.error.detail} {found.error.hint}
      </p>
    );
  if (!found.data) return <p className="text-ink-3 text-sm">Working out the to-dos…</p>;
  const drafts: readonly TodoDraft[] = found.data;
  const left = drafts.reduce((sum, draft) => sum + draft.left_out, 0);
  return (
    <div aria-live="polite" className="bg-sunk/60 rounded-md px-2.5 py-1.5">
      <b className="font-semibold">{plural(drafts.length, "to-do")}</b>
      {left > 0 && `; ${plural(left, "finding")} left out that other to-dos hold`}
      <ol className="mt-1 max-h-56 overflow-y-auto text-sm" tabIndex={0} aria-label="To-dos that would be made">
        {drafts.slice(0, DRAFTS_SHOWN).map((draft, place) => (
          <li key={place} className="flex justify-between gap-3">
            <span className="min-w-0 truncate" title={draft.title}>
              {draft.title}
            </span>
            <span className="text-ink-3 whitespace-nowrap">
              {plural(draft.places, "place")}
              {draft.assignee && ` · ${draft.assignee.split(" ")[0]}`} · {day(draft.due)}
            </span>
          </li>
        ))}
        {drafts.length > DRAFTS_SHOWN && <li className="text-ink-3">and {count(drafts.length - DRAFTS_SHOWN)} more</li>}
      </ol>
    </div>
  );
}

function madeWords(rows: readonly Todo[]): string {
  const [first] = rows;
  if (rows.length !== 1 || !first) return `${plural(rows.length, "to-do")} are made.`;
  return `To-do ${first.id} is made: ${plural(first.places, "place")}, ${first.assignee || "unassigned"}, due ${day(first.due)}.`;
}

function Made({ rows }: { rows: readonly Todo[] }) {
  const [first] = rows;
  if (rows.length === 1 && first)
    return (
      <p>
        <Link to={`/todos/${first.id}`}>To-do {first.id}</Link> is made: {plural(first.places, "place")},{" "}
        {first.assignee || "unassigned"}, due {day(first.due)}.
      </p>
    );
  return (
    <>
      <p>{madeWords(rows)}</p>
      <ul className="max-h-72 overflow-y-auto" tabIndex={0} aria-label="To-dos that were made">
        {rows.map((todo) => (
          <li key={todo.id} className="truncate">
            <Link to={`/todos/${todo.id}`}>{todo.title}</Link>
            <span className="text-ink-3 text-sm"> {todo.assignee || "unassigned"}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
