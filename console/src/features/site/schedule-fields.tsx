/** A recurrence as it is chosen in forms: how often, on which days, at what time of which zone. */
import { type FieldValues, useWatch } from "react-hook-form";
import { ZONES } from "../../lib/dates";
import { Field } from "../../ui/form";
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

export interface ScheduleValues extends FieldValues {
  often: Often;
  monthDay: string;
  nth: string;
  weekday: string;
  rule: string;
  at: string;
  zone: string;
}

/** What the fields show of a schedule, or of what is proposed where there is none. */
export function scheduleValues(rule = "weekly:TU", at = "02:00", zone = ""): ScheduleValues {
  const chosen = readRule(rule);
  return {
    often: chosen.often,
    monthDay: chosen.monthDay,
    nth: chosen.nth,
    weekday: chosen.days[0] ?? "TU",
    ...Object.fromEntries(WEEKDAYS.map(([code]) => [code, chosen.days.includes(code)])),
    rule: chosen.rule,
    at,
    zone: zone || Intl.DateTimeFormat().resolvedOptions().timeZone,
  };
}

/** The rule that the fields say; null while a week has no day. */
export function ruleOf(values: ScheduleValues): string | null {
  const several = WEEKDAYS.map(([code]) => code as string).filter((code) => values[code] === true);
  const inWeek = values.often === "week" || values.often === "fortnight";
  if (inWeek && several.length === 0) return null;
  return writeRule({ ...values, days: inWeek ? several : [values.weekday] });
}
export const NO_DAY = "Choose at least one day of the week.";

/** On which days something comes back, without a time. */
export function OnDays() {
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Field name="often" label="How often" kind="choice" choices={OFTEN} />
      <When />
    </div>
  );
}

/** `until`: the starts of several sites may be spread until then. */
export function ScheduleFields({ until = false }: { until?: boolean }) {
  return (
    <>
      <OnDays />
      <div className={`grid gap-3 ${until ? "sm:grid-cols-3" : "sm:grid-cols-2"}`}>
        <Field name="at" label={until ? "First start" : "At"} kind="time" required />
        {until && <Field name="until" label="Last start" kind="time" hint="Empty: all at once" />}
        <Field name="zone" label="Time zone" kind="search" choices={ZONES} />
      </div>
    </>
  );
}

/** On which days: what there is to choose depends on how often. */
function When() {
  const often = useWatch<ScheduleValues, "often">({ name: "often" });
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
