import { useState } from "react";
import { useForm } from "react-hook-form";
import { sendThen, useChange } from "../../api/change";
import { todos as queries } from "../../api/queries/work";
import type { Todo, TodoEdit } from "../../api/types";
import { plural } from "../../lib/words";
import type { Choice } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button } from "../../ui/parts";
import { useSay } from "../../ui/toast";
import { useAssignable } from "./assignable";
import { labelsIn, NEXT, priorityChoices } from "./fields";

const STAYS: Choice = { value: "", label: "leave as it is" };
const NOBODY = "nobody";
type Values = { assignee: string; due: string; priority: string; state: string; reason: string; label: string };

/** The edits that bring values to to-dos; a step that the state of one does not permit is left out for it. */
export function editsOf(chosen: readonly Todo[], values: Values): TodoEdit[] {
  const added = labelsIn(values.label);
  return chosen
    .map((todo): TodoEdit => {
      const state = NEXT[todo.state].find(([name]) => name === values.state)?.[0];
      const dropped = values.state === "dropped" && ["open", "doing", "done"].includes(todo.state);
      return {
        id: todo.id,
        version: todo.version,
        ...(values.assignee ? { assignee: values.assignee === NOBODY ? null : Number(values.assignee) } : {}),
        ...(values.due ? { due: values.due } : {}),
        ...(values.priority ? { priority: values.priority as Todo["priority"] } : {}),
        ...(state ? { state } : {}),
        ...(dropped ? { state: "dropped", drop_reason: values.reason } : {}),
        ...(added.length > 0 ? { labels: labelsIn([...todo.labels, ...added].join(",")) } : {}),
      };
    })
    .filter((edit) => Object.keys(edit).length > 2);
}

/** Changes to-dos that were chosen, all of them or none, and offers the way back. */
export function ChangeMany({ todos, done }: { todos: readonly Todo[]; done: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Change…</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={`Change ${plural(todos.length, "to-do")}`}
        description="All of them are changed, or none. What you leave stays as it is."
      >
        {open && <ChangeForm todos={todos} done={done} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function ChangeForm({ todos, done, close }: { todos: readonly Todo[]; done: () => void; close: () => void }) {
  const say = useSay();
  const people = useAssignable(...todos.map((todo) => todo.site_id));
  const form = useForm<Values>({
    defaultValues: { assignee: "", due: "", priority: "", state: "", reason: "", label: "" },
  });
  const [state, setState] = useState("");
  const change = useChange(queries.changeAll());
  const back = useChange(queries.changeAll());
  const send = (values: Values) => {
    const changes = editsOf(todos, values);
    if (changes.length === 0) {
      form.setError("assignee", { message: "Choose what to change; these to-dos cannot take that step." });
      return;
    }
    sendThen(change, { changes, undo: false }, (found) => {
      say(`${plural(found.todos.length, "to-do")} changed.`, () =>
        sendThen(
          back,
          { changes: found.undo, undo: true },
          () => say("Undone."),
          (problem) => say(`${problem.detail} ${problem.hint}`),
        ),
      );
      done();
      close();
    });
  };
  return (
    <Form form={form} error={change.error} onSend={send}>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field
          name="assignee"
          label="Assignee"
          kind="choice"
          choices={[STAYS, { value: NOBODY, label: "Unassigned" }, ...people]}
        />
        <Field name="due" label="Due" kind="day" hint="Leave empty to keep the dates" />
        <Field name="priority" label="Priority" kind="choice" choices={[STAYS, ...priorityChoices]} />
        <Field
          name="state"
          label="State"
          kind="choice"
          onChanged={(name) => setState(String(name))}
          choices={[
            STAYS,
            { value: "doing", label: "begin" },
            { value: "done", label: "mark done" },
            { value: "open", label: "open again" },
            { value: "dropped", label: "drop" },
          ]}
        />
      </div>
      {state === "dropped" && <Field name="reason" label="Reason for dropping" required />}
      <Field name="label" label="Add labels" hint="Separate them with commas; labels that are there stay" />
      <div className="flex gap-2">
        <Button main type="submit" disabled={change.isPending}>
          Change to-dos
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
