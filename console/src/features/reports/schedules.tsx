/** When reports are made by themselves, who approves them, and where they go. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { reports } from "../../api/queries/reports";
import { sites } from "../../api/queries/sites";
import { members } from "../../api/queries/team";
import type { ReportSchedule } from "../../api/types";
import { ZONES } from "../../lib/dates";
import { moment } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { asLines, recipientsIn } from "./sharing";

export function Schedules() {
  const may = useMay();
  const found = useQuery(reports.schedules());
  const [editing, setEditing] = useState<ReportSchedule | "new" | null>(null);
  return (
    <>
      <Loaded query={found}>
        {(rows) => (
          <div className="space-y-3.5">
            {rows.length === 0 && (
              <p className="text-ink-3">
                No report is made by itself yet. A schedule makes a draft after each week, month or quarter, and tells
                whoever approves it.
              </p>
            )}
            {rows.map((row) => (
              <Row key={row.id} row={row} onEdit={() => setEditing(row)} />
            ))}
          </div>
        )}
      </Loaded>
      {may("add_report_schedule") && (
        <p className="mt-3.5">
          <Button onClick={() => setEditing("new")}>Add schedule</Button>
        </p>
      )}
      <Dialog
        open={editing !== null}
        onOpenChange={(open) => !open && setEditing(null)}
        title={editing === "new" ? "Add schedule" : "Edit schedule"}
        description="A draft is made by itself; nothing goes out before somebody has approved it."
      >
        {editing !== null && <Edit row={editing === "new" ? undefined : editing} onDone={() => setEditing(null)} />}
      </Dialog>
    </>
  );
}

function Row({ row, onEdit }: { row: ReportSchedule; onEdit: () => void }) {
  const may = useMay();
  const change = useChange(reports.changeSchedule(row.id));
  const remove = useChange(reports.removeSchedule(row.id));
  const error = change.error ?? remove.error;
  const people = row.recipients ?? [];
  return (
    <Card
      title={`${row.client_name}: ${row.template_name}`}
      aside={row.paused_at ? "paused" : row.next_due_at ? `next on ${moment(row.next_due_at)}` : undefined}
    >
      <p>
        {row.site_host}, {row.words}
      </p>
      <p className="text-ink-2">
        {row.owner ? `${row.owner} approves it` : "Nobody is told to approve it"}; it goes to{" "}
        {people.length > 0 ? people.map((each) => `${each.name} <${each.email}>`).join(", ") : "nobody yet"}.
      </p>
      {row.trouble && <p className="text-bad mt-1">The last report could not be made: {row.trouble}</p>}
      {error && <Trouble error={error} />}
      {may("change_report_schedule") && (
        <p className="mt-2 flex gap-4">
          <LinkButton aria-label={`Edit the schedule of ${row.site_host}`} onClick={onEdit}>
            Edit
          </LinkButton>
          <LinkButton
            aria-label={`${row.paused_at ? "Resume" : "Pause"} the schedule of ${row.site_host}`}
            disabled={change.isPending}
            onClick={() => change.mutate({ paused: row.paused_at === null })}
          >
            {row.paused_at ? "Resume" : "Pause"}
          </LinkButton>
          <LinkButton
            aria-label={`Remove the schedule of ${row.site_host}`}
            disabled={remove.isPending}
            onClick={() => remove.mutate()}
          >
            Remove
          </LinkButton>
        </p>
      )}
    </Card>
  );
}

const SPANS = [
  { value: "week", label: "each week" },
  { value: "month", label: "each month" },
  { value: "quarter", label: "each quarter" },
] as const;
const NOBODY = "";

function Edit({ row, onDone }: { row: ReportSchedule | undefined; onDone: () => void }) {
  const say = useSay();
  const own = useQuery(sites.all("own")).data ?? [];
  const templates = useQuery(reports.templates()).data ?? [];
  const people = (useQuery(members.all()).data ?? []).filter((m) => m.active && m.role !== "guest");
  const add = useChange(reports.addSchedule());
  const change = useChange(reports.changeSchedule(row?.id ?? 0));
  const form = useForm({
    defaultValues: {
      site_id: row ? String(row.site_id) : "",
      template: row?.template ?? "monthly",
      span: row?.span ?? "month",
      working_day: String(row?.working_day ?? 1),
      at: row?.at ?? "08:00",
      zone: row?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
      recipients: row ? asLines(row.recipients ?? []) : "",
      subject: row?.subject ?? "",
      cover: row?.cover ?? "",
      owner_id: row?.owner_id ? String(row.owner_id) : NOBODY,
    },
  });
  return (
    <Form
      form={form}
      error={add.error ?? change.error}
      onSend={(values) => {
        const recipients = recipientsIn(values.recipients);
        if (!recipients) return form.setError("recipients", { message: "Write a name and an address on each line." });
        const body = {
          ...values,
          span: SPANS.find((each) => each.value === values.span)?.value ?? "month",
          site_id: Number(values.site_id),
          working_day: Number(values.working_day),
          owner_id: values.owner_id ? Number(values.owner_id) : null,
          recipients,
        };
        const done = () => {
          say("The schedule is saved.");
          onDone();
        };
        if (!row) return add.mutate(body, { onSuccess: done });
        const { template, span, working_day, at, zone, subject, cover, owner_id } = body;
        return change.mutate(
          { template, span, working_day, at, zone, subject, cover, owner_id, recipients },
          { onSuccess: done },
        );
      }}
    >
      <Field
        name="site_id"
        label="Site"
        kind="choice"
        required
        disabled={row !== undefined}
        choices={own.map((s) => ({ value: String(s.id), label: `${s.client_name}: ${s.host}` }))}
      />
      <Field
        name="template"
        label="Template"
        kind="choice"
        required
        choices={templates.map((each) => ({ value: each.id, label: each.name }))}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <Field name="span" label="After" kind="choice" choices={SPANS} />
        <Field name="working_day" label="On working day" kind="number" required hint="1: the first" />
        <Field name="at" label="At" kind="time" required />
        <Field name="zone" label="Time zone" kind="choice" choices={ZONES} />
      </div>
      <Field
        name="owner_id"
        label="Approved by"
        kind="choice"
        choices={[
          { value: NOBODY, label: row ? "nobody is told" : "whoever is in charge of the client" },
          ...people.map((m) => ({ value: String(m.id), label: m.name })),
        ]}
      />
      <Field
        name="recipients"
        label="Goes to"
        kind="long"
        rows={3}
        hint="One on each line: Rosa Penhallow, rosa@tidewrack.example"
      />
      <Field
        name="cover"
        label="Words of the mail"
        kind="long"
        rows={3}
        hint="Empty: a sentence in the client’s language"
      />
      <Button main type="submit" disabled={add.isPending || change.isPending}>
        Save schedule
      </Button>
    </Form>
  );
}
