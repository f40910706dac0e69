import { useState } from "react";
import { Link } from "react-router";
import type { Member, Site, Todo, TodoBody } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, plural } from "../../lib/words";
import { Button, Field, LinkButton, Trouble } from "../../ui/parts";
import { Dialog } from "../../ui/dialog";

type Props = {
  site: Site;
  check?: string;
  cause?: number;
  fingerprints?: string[];
  title: string;
  label: string;
  quiet?: boolean;
  main?: boolean;
  disabled?: boolean;
};

export function MakeTodo({ label, quiet, main, disabled, ...rest }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {quiet ? (
        <LinkButton onClick={() => setOpen(true)} aria-label={`Make a to-do: ${rest.title}`}>
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
        title="Make a to-do"
        description="The next run of the site says whether it is really done."
      >
        {open && <Form {...rest} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function Form({ site, check, cause, fingerprints, title, close }: Omit<Props, "label"> & { close: () => void }) {
  const members = useRead<Member[]>("/members");
  const [values, setValues] = useState({ title, assignee: "", due: "", note: "" });
  const make = useChange<TodoBody, Todo>("POST", "/todos");
  if (make.data)
    return (
      <div role="status" className="space-y-3">
        <p>
          <Link to={`/todos/${make.data.id}`}>To-do {make.data.id}</Link> is made: {plural(make.data.places, "place")},{" "}
          {make.data.assignee || "nobody yet"}, due {day(make.data.due)}.
        </p>
        <Button main onClick={close}>
          Close
        </Button>
      </div>
    );
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate({
          site_id: site.id,
          title: values.title,
          note: values.note,
          ...(check ? { check } : {}),
          ...(cause === undefined ? {} : { cause }),
          ...(fingerprints ? { fingerprints } : {}),
          ...(values.assignee ? { assignee: Number(values.assignee) } : {}),
          ...(values.due ? { due: values.due } : {}),
        });
      }}
    >
      <Field label="Title">
        {(c) => (
          <input
            className={c}
            required
            maxLength={300}
            value={values.title}
            onChange={(e) => setValues({ ...values, title: e.target.value })}
          />
        )}
      </Field>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label="Who">
          {(c) => (
            <select
              className={c}
              value={values.assignee}
              onChange={(e) => setValues({ ...values, assignee: e.target.value })}
            >
              <option value="">nobody yet</option>
              {(members.data ?? [])
                .filter((m) => m.active && m.role !== "guest")
                .map((m) => (
                  <option key={m.id} value={m.id}>
                    {m.name} ({m.open_todos} open)
                  </option>
                ))}
            </select>
          )}
        </Field>
        <Field label="Due" hint="Left empty: by severity">
          {(c) => (
            <input
              className={c}
              type="date"
              value={values.due}
              onChange={(e) => setValues({ ...values, due: e.target.value })}
            />
          )}
        </Field>
      </div>
      <Field label="Note">
        {(c) => (
          <textarea
            className={c}
            rows={3}
            value={values.note}
            onChange={(e) => setValues({ ...values, note: e.target.value })}
          />
        )}
      </Field>
      {make.error && <Trouble error={make.error} />}
      <div className="flex gap-2">
        <Button main type="submit" disabled={make.isPending}>
          Make it
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}
