import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { members } from "../../api/queries/team";
import { todos } from "../../api/queries/work";
import type { ComparedPick, Member, Site } from "../../api/types";
import { day, plural } from "../../lib/words";
import type { Choice } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";

type Props = {
  site: Site;
  check?: string;
  cause?: number;
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

/** Members that a to-do can be given to. */
export const assignable = (found: readonly Member[]): Choice[] => [
  { value: "", label: "Unassigned" },
  ...found
    .filter((m) => m.active && m.role !== "guest")
    .map((m) => ({ value: String(m.id), label: `${m.name} (${m.open_todos} open)` })),
];

function TodoForm({
  site,
  check,
  cause,
  fingerprints,
  compared,
  title,
  made,
  close,
}: Omit<Props, "label"> & { close: () => void }) {
  const people = useQuery(members.all());
  const form = useForm({ defaultValues: { title, assignee: "", due: "", note: "" } });
  const make = useChange(todos.add());
  const done = () => {
    made?.();
    close();
  };
  if (make.data)
    return (
      <div role="status" className="space-y-3">
        <p>
          <Link to={`/todos/${make.data.id}`}>To-do {make.data.id}</Link> is made: {plural(make.data.places, "place")},{" "}
          {make.data.assignee || "Unassigned"}, due {day(make.data.due)}.
        </p>
        <Button main onClick={done}>
          Close
        </Button>
      </div>
    );
  return (
    <Form
      form={form}
      error={make.error}
      onSend={(values) =>
        make.mutate({
          site_id: site.id,
          title: values.title,
          note: values.note,
          check: check ?? "",
          cause,
          fingerprints,
          compared,
          assignee: values.assignee ? Number(values.assignee) : undefined,
          due: values.due || undefined,
        })
      }
    >
      <Field name="title" label="Title" required longest={300} />
      <div className="grid gap-3 sm:grid-cols-2">
        <Field name="assignee" label="Who" kind="choice" choices={assignable(people.data ?? [])} />
        <Field name="due" label="Due" kind="day" hint="Leave empty to set it by severity" />
      </div>
      <Field name="note" label="Note" kind="long" rows={3} />
      <div className="flex gap-2">
        <Button main type="submit" disabled={make.isPending}>
          Make it
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
