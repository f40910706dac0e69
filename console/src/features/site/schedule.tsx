/** When a site is audited by itself, and who is told: chosen, not typed as a code. */
import { type FieldValues, useForm, useWatch } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sites } from "../../api/queries/sites";
import { ZONES } from "../../lib/dates";
import { moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { useSite } from "./context";
import { type Often, readRule, WEEKDAYS, writeRule } from "./recurrence";

const OFTEN: { value: Often; label: string }[] = [
  { value: "day", label: "Every day" },
  { value: "week", label: "Every week" },
  { value: "fortnight", label: "Every two weeks" },
  { value: "month", label: "Every month, on a day" },
  { value: "month-weekday", label: "Every month, on a weekday" },
  { value: "rule", label: "By a rule of your own" },
];
const MONTH_DAYS = [
  ...Array.from({ length: 28 }, (_, i) => ({ value: String(i + 1), label: String(i + 1) })),
  { value: "-1", label: "last day" },
];
const NTH = ["first", "second", "third", "fourth"]
  .map((label, i) => ({ value: String(i + 1), label }))
  .concat({ value: "-1", label: "last" });

interface Values extends FieldValues {
  often: Often;
  monthDay: string;
  nth: string;
  weekday: string;
  rule: string;
  at: string;
  zone: string;
  mail: string;
}

export function ScheduleCard() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const now = site.schedule;
  const chosen = readRule(now?.rule ?? "weekly:TU");
  const form = useForm<Values>({
    defaultValues: {
      often: chosen.often,
      monthDay: chosen.monthDay,
      nth: chosen.nth,
      weekday: chosen.days[0] ?? "TU",
      ...Object.fromEntries(WEEKDAYS.map(([code]) => [code, chosen.days.includes(code)])),
      rule: chosen.rule,
      at: now?.at ?? "02:00",
      zone: now?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
      mail: (now?.mail_to ?? []).join(", "),
    },
  });
  const save = useChange(sites.setSchedule(site.id));
  const remove = useChange(sites.removeSchedule(site.id));
  const send = (values: Values) => {
    const several = WEEKDAYS.map(([code]) => code as string).filter((code) => values[code] === true);
    const inWeek = values.often === "week" || values.often === "fortnight";
    if (inWeek && several.length === 0) {
      form.setError("often", { message: "Choose at least one day of the week." });
      return;
    }
    save.mutate(
      {
        rule: writeRule({ ...values, days: inWeek ? several : [values.weekday] }),
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
          <LinkButton onClick={() => remove.mutate(undefined, { onSuccess: () => say("The schedule is removed.") })}>
            remove
          </LinkButton>
        ) : undefined
      }
    >
      <p className="text-ink-2 mb-2 first-letter:uppercase">
        {now ? `${now.words}; next ${moment(now.next_due_at)} in your time` : "This site is audited only by hand."}
      </p>
      {remove.error && <Trouble error={remove.error} />}
      {may("set_schedule") && (
        <Form form={form} error={save.error} onSend={send}>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="often" label="How often" kind="choice" choices={OFTEN} />
            <When />
          </div>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="at" label="At" kind="time" required />
            <Field name="zone" label="Time zone" kind="search" choices={ZONES} />
          </div>
          <Field name="mail" label="Email when done" hint="Separate email addresses with commas" />
          <Button type="submit" disabled={save.isPending}>
            Save schedule
          </Button>
        </Form>
      )}
    </Card>
  );
}

/** On which days: what there is to choose depends on how often. */
function When() {
  const often = useWatch<Values, "often">({ name: "often" });
  switch (often) {
    case "day":
      return null;
    case "week":
    case "fortnight":
      return (
        <fieldset>
          <legend className="text-ink-2 mb-1 text-sm font-medium">On</legend>
          <div className="flex flex-wrap gap-x-3 gap-y-1.5">
            {WEEKDAYS.map(([code, name]) => (
              <Field key={code} name={code} label={name.slice(0, 3)} kind="tick" />
            ))}
          </div>
        </fieldset>
      );
    case "month":
      return <Field name="monthDay" label="Day of the month" kind="choice" choices={MONTH_DAYS} />;
    case "month-weekday":
      return (
        <div className="grid grid-cols-2 gap-2">
          <Field name="nth" label="On the" kind="choice" choices={NTH} />
          <Field
            name="weekday"
            label="Weekday"
            kind="choice"
            choices={WEEKDAYS.map(([value, label]) => ({ value, label }))}
          />
        </div>
      );
    case "rule":
      return <Field name="rule" label="Rule" required mono hint="A recurrence rule by RFC 5545, of a day or longer" />;
  }
}
