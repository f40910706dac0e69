/** When a site is audited by itself, and who is told: chosen, not typed as a code. */
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sites } from "../../api/queries/sites";
import type { Schedule } from "../../api/types";
import { moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { useSite } from "./context";
import { NO_DAY, ruleOf, ScheduleFields, type ScheduleValues, scheduleValues } from "./schedule-fields";

interface Values extends ScheduleValues {
  mail: string;
}

export function ScheduleCard() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const now = site.schedule;
  const form = useForm<Values>({
    defaultValues: { ...scheduleValues(now?.rule, now?.at, now?.zone), mail: (now?.mail_to ?? []).join(", ") },
  });
  const save = useChange(sites.setSchedule(site.id));
  const remove = useChange(sites.removeSchedule(site.id));
  const paused = Boolean(now?.paused_at);
  const pause = useChange(sites.pause(site.id, !paused));
  const trouble = remove.error ?? pause.error;
  const send = (values: Values) => {
    const rule = ruleOf(values);
    if (rule === null) return form.setError("often", { message: NO_DAY });
    save.mutate(
      {
        rule,
        at: values.at,
        zone: values.zone,
        mail_to: values.mail
          .split(",")
          .map((t) => t.trim())
          .filter(Boolean),
      },
      { onSuccess: () => say("The schedule is saved.") },
    );
  };
  return (
    <Card
      title="Schedule"
      aside={
        now && may("remove_schedule") ? (
          <span className="flex gap-3">
            <LinkButton
              disabled={pause.isPending}
              onClick={() =>
                pause.mutate(undefined, {
                  onSuccess: () => say(paused ? "The schedule goes on." : "The schedule is paused."),
                })
              }
            >
              {paused ? "resume" : "pause"}
            </LinkButton>
            <LinkButton onClick={() => remove.mutate(undefined, { onSuccess: () => say("The schedule is removed.") })}>
              remove
            </LinkButton>
          </span>
        ) : undefined
      }
    >
      <p className="text-ink-2 mb-2 first-letter:uppercase">
        {now ? inWords(now) : "This site is audited only by hand."}
      </p>
      {trouble && <Trouble error={trouble} />}
      {may("set_schedule") && (
        <Form form={form} error={save.error} onSend={send}>
          <ScheduleFields />
          <Field name="mail" label="Email when done" hint="Separate email addresses with commas" />
          <Button type="submit" disabled={save.isPending}>
            Save schedule
          </Button>
        </Form>
      )}
    </Card>
  );
}

function inWords(now: Schedule): string {
  if (now.paused_at) return `${now.words}; paused since ${moment(now.paused_at)}`;
  const again = now.retry_at ? `; the run that failed is tried again ${moment(now.retry_at)}` : "";
  return `${now.words}; next ${moment(now.next_due_at)} in your time${again}`;
}
