import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sites } from "../../api/queries/sites";
import { recurring } from "../../api/queries/work";
import { day, plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { UNASSIGNED, useAssignable } from "./assignable";
import { NO_DAY, OnDays, ruleOf, type ScheduleValues, scheduleValues } from "../site/schedule-fields";
import { labelsIn, priorityChoices } from "./fields";

export function RecurringScreen() {
  const found = useQuery(recurring.all());
  const may = useMay();
  const say = useSay();
  const remove = useChange(recurring.remove());
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Title of={["Recurring", "To-dos"]} />
      <Heading over={<Link to="/todos">To-dos</Link>} title="Recurring">
        {may("add_recurring") && (
          <Button main onClick={() => setAdding(true)}>
            Add recurring to-do
          </Button>
        )}
      </Heading>
      <p className="text-ink-3 mb-3">
        Made again on the days you choose, as long as the one before is done: what is late is not made twice.
      </p>
      {remove.error && <Trouble error={remove.error} />}
      <Card>
        <Loaded query={found}>
          {(rows) => (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="Recurring to-dos"
              empty="None yet. Use one for what no audit can see, such as opening hours or a monthly call."
              columns={[
                {
                  head: "To-do",
                  sort: (r) => r.title,
                  cell: (r) => (
                    <>
                      <b className="font-semibold">{r.title}</b>
                      <div className="text-ink-3 text-sm">
                        <Link to={`/sites/${r.site_id}`}>{r.site_host}</Link>, {r.client_name}
                      </div>
                    </>
                  ),
                },
                { head: "Comes back", cell: (r) => r.words },
                { head: "Next", sort: (r) => r.next_on, cell: (r) => (r.next_on ? day(r.next_on) : "no more") },
                { head: "To be done within", cell: (r) => plural(r.days ?? 0, "working day") },
                { head: "Assignee", cell: (r) => r.assignee_name || <span className="text-ink-3">Unassigned</span> },
                {
                  head: "Last",
                  cell: (r) =>
                    r.last_todo ? <Link to={`/todos/${r.last_todo}`}>to-do {r.last_todo}</Link> : "none yet",
                },
                {
                  head: "Actions",
                  quiet: true,
                  cell: (r) =>
                    may("remove_recurring") && (
                      <LinkButton
                        aria-label={`Let it come back no more: ${r.title}`}
                        onClick={() => remove.mutate(r.id, { onSuccess: () => say(`${r.title} comes back no more.`) })}
                      >
                        end
                      </LinkButton>
                    ),
                },
              ]}
            />
          )}
        </Loaded>
      </Card>
      <Dialog
        open={adding}
        onOpenChange={setAdding}
        title="Add recurring to-do"
        description="The first one is made on the next of its days, today among them."
      >
        {adding && <Add close={() => setAdding(false)} />}
      </Dialog>
    </>
  );
}

interface Values extends ScheduleValues {
  title: string;
  site_id: string;
  days: string;
  assignee: string;
  priority: string;
  labels: string;
  note: string;
}

function Add({ close }: { close: () => void }) {
  const say = useSay();
  const all = useQuery(sites.all("own")).data ?? [];
  const add = useChange(recurring.add());
  const form = useForm<Values>({
    defaultValues: {
      ...scheduleValues("monthly:1"),
      title: "",
      site_id: "",
      days: "5",
      assignee: "",
      priority: "normal",
      labels: "",
      note: "",
    },
  });
  const site = useWatch({ control: form.control, name: "site_id" });
  const people = useAssignable(Number(site));
  const send = (values: Values) => {
    const rule = ruleOf(values);
    if (rule === null) return form.setError("often", { message: NO_DAY });
    if (!values.site_id) return form.setError("site_id", { message: "Choose a site." });
    add.mutate(
      {
        site_id: Number(values.site_id),
        title: values.title,
        rule,
        days: Number(values.days),
        note: values.note,
        assignee: values.assignee ? Number(values.assignee) : null,
        priority: values.priority as "normal",
        labels: labelsIn(values.labels),
      },
      {
        onSuccess: (made) => {
          say(`${made.title} comes back ${made.words}.`);
          close();
        },
      },
    );
  };
  return (
    <Form form={form} error={add.error} onSend={send}>
      <Field name="title" label="Title" required longest={300} />
      <Field
        name="site_id"
        label="Site"
        kind="choice"
        choices={all.map((s) => ({ value: String(s.id), label: `${s.host}, ${s.client_name}` }))}
      />
      <OnDays />
      <div className="grid gap-3 sm:grid-cols-3">
        <Field name="days" label="To be done within" kind="number" hint="working days" required />
        <Field name="assignee" label="Assignee" kind="choice" choices={[UNASSIGNED, ...people]} />
        <Field name="priority" label="Priority" kind="choice" choices={priorityChoices} />
      </div>
      <Field name="labels" label="Labels" hint="Separate them with commas" />
      <Field name="note" label="Note" kind="long" hint="Markdown" />
      <div className="flex gap-2">
        <Button main type="submit" disabled={add.isPending}>
          Add it
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
