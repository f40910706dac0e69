import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import type { Member } from "../../api/types";
import { ZONES } from "../../lib/dates";
import { Field, Form } from "../../ui/form";
import { Button, Card } from "../../ui/parts";
import { useSay } from "../../ui/toast";

const TIMES = [
  { value: "at-once", label: "as it happens" },
  { value: "daily", label: "in the daily mail" },
  { value: "never", label: "never" },
];
const KINDS = [
  ["assigned", "A to-do is assigned to you"],
  ["mentioned", "A comment mentions you"],
  ["commented", "Another comment on a to-do of yours"],
  ["due-soon", "A to-do is due by the next working day"],
  ["overdue", "A to-do is overdue"],
  ["reopened", "A to-do of yours is opened again"],
  ["confirmed", "A to-do of yours is confirmed"],
] as const;
const HOURS = Array.from({ length: 24 }, (_, hour) => ({
  value: String(hour),
  label: `${String(hour).padStart(2, "0")}:00`,
}));

/** When one is told of to-dos by mail. Yours are those you do, made, or watch. */
export function YourMails({ me }: { me: Member }) {
  const form = useForm({
    values: {
      times: me.mail_times ?? {},
      morning: me.morning,
      hour: String(me.mail_hour),
      zone: me.mail_zone,
    },
  });
  const save = useChange(session.change());
  const say = useSay();
  return (
    <Card id="mails" title="Your mails" aside="to-dos you do, made or watch">
      <Form
        form={form}
        error={save.error}
        onSend={({ times, morning, hour, zone }) =>
          save.mutate(
            { mail_times: times, morning, mail_hour: Number(hour), mail_zone: zone },
            { onSuccess: () => say("Your mails are set.") },
          )
        }
      >
        <div className="grid gap-3 sm:grid-cols-2">
          {KINDS.map(([kind, label]) => (
            <Field key={kind} name={`times.${kind}`} label={label} kind="choice" choices={TIMES} />
          ))}
        </div>
        <Field name="morning" label="The desk by mail every working morning, with the daily mail" kind="tick" />
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="hour" label="Daily mail at" kind="choice" choices={HOURS} />
          <Field name="zone" label="Time zone" kind="search" choices={ZONES} />
        </div>
        <Button type="submit" disabled={save.isPending || !form.formState.isDirty}>
          Save
        </Button>
      </Form>
    </Card>
  );
}
