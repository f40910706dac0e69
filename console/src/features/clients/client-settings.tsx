import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { isDay } from "../../lib/dates";
import { reports } from "../../api/queries/reports";
import { clients } from "../../api/queries/sites";
import { members, session } from "../../api/queries/team";
import type { Client, Severity } from "../../api/types";
import { Field, Form } from "../../ui/form";
import { Button, Card } from "../../ui/parts";
import { SEVERITIES } from "../../ui/signs";
import { useSay } from "../../ui/toast";
import { labelsIn } from "../todos/fields";

const NOBODY = "";
type Values = {
  name: string;
  owner_id: string;
  tags: string;
  note: string;
  language: string;
  holidays: string;
  blackout_days: string;
  approves: boolean;
  /** By number, whether the client is limited to a member; nobody chosen: it is open to all. */
  let_in: Record<string, boolean>;
} & Record<Severity, string>;

const valuesOf = (client: Client): Values => ({
  name: client.name,
  owner_id: client.owner_id ? String(client.owner_id) : NOBODY,
  tags: client.tags.join(", "),
  note: client.note,
  language: client.language ?? "en",
  holidays: client.holidays.join("\n"),
  blackout_days: client.blackout_days.join("\n"),
  approves: client.approves ?? false,
  let_in: Object.fromEntries(client.member_ids.map((id) => [String(id), true])),
  critical: String(client.targets.critical ?? ""),
  high: String(client.targets.high ?? ""),
  medium: String(client.targets.medium ?? ""),
  low: String(client.targets.low ?? ""),
});

/** Days as they are typed, one on a line; null where one of them is none. */
export function daysIn(text: string): string[] | null {
  const days = text.split(/[\s,;]+/).filter(Boolean);
  const good = days.every((day) => isDay(day) && !Number.isNaN(Date.parse(day)));
  return good ? [...new Set(days)].sort() : null;
}

const NO_DAY = "Write each day as yyyy-mm-dd, one on a line.";

export function ClientSettings({ client }: { client: Client }) {
  const say = useSay();
  const people = (useQuery(members.all()).data ?? []).filter((m) => m.active && m.role !== "guest");
  const role = useQuery(session.me()).data?.role;
  const limits = role === "owner" || role === "lead";
  const workers = people.filter((m) => m.role === "analyst" || m.role === "fixer");
  const languages = useQuery(reports.offer()).data?.languages ?? {};
  const change = useChange(clients.change(client.id));
  const form = useForm<Values>({
    values: valuesOf(client),
    resetOptions: { keepDirtyValues: true },
  });
  const send = (values: Values) => {
    const [holidays, blackout] = [daysIn(values.holidays), daysIn(values.blackout_days)];
    if (!holidays) return form.setError("holidays", { message: NO_DAY });
    if (!blackout) return form.setError("blackout_days", { message: NO_DAY });
    const wrong = SEVERITIES.find((name) => !/^\d{1,3}$/.test(values[name]));
    if (wrong) return form.setError(wrong, { message: "Give working days, 0 to 999." });
    change.mutate(
      {
        name: values.name,
        owner_id: values.owner_id ? Number(values.owner_id) : null,
        tags: labelsIn(values.tags),
        note: values.note,
        language: values.language,
        holidays,
        blackout_days: blackout,
        approves: values.approves,
        ...(limits
          ? {
              member_ids: workers.filter((m) => values.let_in[String(m.id)]).map((m) => m.id),
            }
          : {}),
        targets: Object.fromEntries(SEVERITIES.map((name) => [name, Number(values[name])])),
      },
      {
        onSuccess: (changed) => {
          form.reset(valuesOf(changed), { keepDirtyValues: false });
          say("The client is saved.");
        },
      },
    );
  };
  return (
    <Card title="Settings" id="settings">
      <Form form={form} error={change.error} onSend={send}>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="name" label="Name" required longest={200} />
          <Field
            name="owner_id"
            label="In charge"
            kind="choice"
            choices={[
              { value: NOBODY, label: "nobody" },
              ...people.map((m) => ({ value: String(m.id), label: m.name })),
            ]}
          />
        </div>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="tags" label="Tags" hint="Separate them with commas" />
          <Field
            name="language"
            label="Language of reports"
            kind="choice"
            choices={Object.entries(languages).map(([value, label]) => ({ value, label }))}
          />
        </div>
        <Field name="note" label="Agreed with the client" kind="long" hint="Markdown; not shown to guests" />
        <fieldset>
          <legend className="text-ink-2 mb-1 text-sm font-medium">To-dos are due within, in working days</legend>
          <div className="grid grid-cols-4 gap-3">
            {SEVERITIES.map((name) => (
              <Field key={name} name={name} label={name[0]!.toUpperCase() + name.slice(1)} />
            ))}
          </div>
        </fieldset>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="holidays" label="Holidays" kind="long" mono hint="No working days; yyyy-mm-dd, one on a line" />
          <Field
            name="blackout_days"
            label="Blackout days"
            kind="long"
            mono
            hint="No audit starts automatically; yyyy-mm-dd, one on a line"
          />
        </div>
        <Field name="approves" label="To-dos wait until the client has agreed" kind="tick" />
        {limits && workers.length > 0 && (
          <fieldset>
            <legend className="text-ink-2 mb-1 text-sm font-medium">Limited to</legend>
            <div className="flex flex-wrap gap-x-4 gap-y-1.5">
              {workers.map((m) => (
                <Field key={m.id} name={`let_in.${m.id}`} label={m.name} kind="tick" />
              ))}
            </div>
            <p className="text-ink-3 mt-1 text-sm">
              With nobody chosen every analyst and fixer sees the client. Owners and leads always do.
            </p>
          </fieldset>
        )}
        <Button type="submit" disabled={change.isPending}>
          Save client
        </Button>
      </Form>
    </Card>
  );
}
