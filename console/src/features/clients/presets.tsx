import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { plans, presets, sites } from "../../api/queries/sites";
import type { Preset, PresetBody, Site } from "../../api/types";
import { plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { ALL, Meanwhile, useSharedForm } from "../../ui/meanwhile";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { NO_DAY, ruleOf, ScheduleFields, type ScheduleValues, scheduleValues } from "../site/schedule-fields";
import { ClientsHead } from "./nav";

export function PresetsScreen() {
  const found = useQuery(presets.all());
  const may = useMay();
  const say = useSay();
  const remove = useChange(presets.remove());
  const [editing, setEditing] = useState<Preset | "new" | null>(null);
  // As it is now, not as it was when the dialog was opened: somebody else may change it meanwhile.
  const edited =
    editing === "new" || editing === null ? null : (found.data?.find((each) => each.id === editing.id) ?? editing);
  return (
    <>
      <ClientsHead title="Presets">
        {may("add_preset") && (
          <Button main onClick={() => setEditing("new")}>
            Add preset
          </Button>
        )}
      </ClientsHead>
      <p className="text-ink-3 mb-3">
        Settings, a schedule and first to-dos under a name. Use one for a new client, or for sites you choose under
        Sites.
      </p>
      {remove.error && <Trouble error={remove.error} />}
      <Card>
        <Loaded query={found}>
          {(rows) => (
            <Table
              rows={rows}
              id={(p) => p.id}
              caption="Presets"
              empty="No presets yet. Set up one site as you like it, then make a preset of it."
              columns={[
                {
                  head: "Preset",
                  sort: (p) => p.name,
                  cell: (p) => (
                    <>
                      <b className="font-semibold">{p.name}</b>
                      {p.note && <div className="text-ink-3 text-sm">{p.note}</div>}
                    </>
                  ),
                },
                { head: "Settings", cell: (p) => <Settings settings={p.settings} /> },
                { head: "Schedule", cell: (p) => scheduleWords(p) },
                {
                  head: "First to-dos",
                  cell: (p) =>
                    (p.todos ?? []).length > 0
                      ? (p.todos ?? []).map((t) => <div key={t.title}>{todoLine(t)}</div>)
                      : "–",
                },
                {
                  head: "Actions",
                  quiet: true,
                  cell: (p) => (
                    <span className="flex gap-3">
                      {may("change_preset") && <LinkButton onClick={() => setEditing(p)}>edit</LinkButton>}
                      {may("remove_preset") && (
                        <LinkButton
                          aria-label={`Remove the preset ${p.name}`}
                          onClick={() => remove.mutate(p.id, { onSuccess: () => say(`${p.name} is removed.`) })}
                        >
                          remove
                        </LinkButton>
                      )}
                    </span>
                  ),
                },
              ]}
            />
          )}
        </Loaded>
      </Card>
      <Dialog
        open={editing !== null}
        onOpenChange={(open) => !open && setEditing(null)}
        title={editing === "new" || editing === null ? "Add preset" : `Edit ${editing.name}`}
        description="Sites that were set up with a preset stay as they are when it changes."
      >
        {editing !== null && <Editor preset={edited} close={() => setEditing(null)} />}
      </Dialog>
    </>
  );
}

function Settings({
  settings,
  without,
  onRemove,
}: {
  settings: Values["settings"];
  without?: Set<string>;
  onRemove?: (name: string) => void;
}) {
  const labels = new Map((useQuery(plans.settings()).data ?? []).map((s) => [s.name, s.label]));
  const rows = Object.entries(settings ?? {}).filter(([name]) => !without?.has(name));
  if (rows.length === 0) return <span className="text-ink-3">the defaults</span>;
  return rows.map(([name, value]) => (
    <div key={name} className="wrap-anywhere">
      {labels.get(name) ?? name}: {shown(value)}{" "}
      {onRemove && (
        <LinkButton aria-label={`Leave out ${labels.get(name) ?? name}`} onClick={() => onRemove(name)}>
          leave out
        </LinkButton>
      )}
    </div>
  ));
}

/** A value of a setting as people read it. */
export function shown(value: unknown): string {
  if (typeof value === "boolean") return value ? "on" : "off";
  if (typeof value === "number") return value.toLocaleString("en-GB");
  if (Array.isArray(value)) return value.map(shown).join(", ") || "none";
  if (typeof value === "object" && value !== null)
    return Object.entries(value)
      .map(([name, each]) => `${name} ${shown(each)}`)
      .join(", ");
  return typeof value === "string" && value ? value : "none";
}

function scheduleWords({ schedule }: Preset): string {
  if (!schedule) return "–";
  return `${schedule.rule}, ${schedule.at}${schedule.until ? ` to ${schedule.until}` : ""} (${schedule.zone})`;
}

type PresetTodo = NonNullable<PresetBody["todos"]>[number];
const todoLine = (todo: PresetTodo) =>
  typeof todo.days === "number" ? `${todo.title}, ${plural(todo.days, "day")}` : todo.title;

/** To-dos as they are typed, one on a line, with ", 5 days" for when each is due; what else a to-do had that is still there stays. */
export function todosIn(text: string, before: readonly PresetTodo[] = []): PresetTodo[] {
  return text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const dated = /^(.+), (\d{1,3}) days?$/.exec(line);
      const title = dated?.[1] ?? line;
      const kept = before.find((todo) => todo.title === title);
      return { ...kept, title, days: dated ? Number(dated[2]) : null } as PresetTodo;
    });
}

interface Values extends ScheduleValues {
  name: string;
  note: string;
  like: string;
  settings: PresetBody["settings"];
  scheduled: boolean;
  until: string;
  todos: string;
}

/** Fields by the name of what they belong to; the others make up the schedule. */
const PARTS: Partial<Record<keyof Values, string>> = {
  name: "Name",
  note: "What it is for",
  like: "Settings",
  settings: "Settings",
  todos: "First to-dos",
};

function Editor({ preset, close }: { preset: Preset | null; close: () => void }) {
  const say = useSay();
  const all = useQuery(sites.all("own")).data ?? [];
  const add = useChange(presets.add());
  const change = useChange(presets.change(preset ?? { id: 0, version: 0 }));
  const [left, setLeft] = useState(new Set<string>());
  const given: Values = {
    name: preset?.name ?? "",
    note: preset?.note ?? "",
    like: "",
    settings: preset?.settings ?? {},
    scheduled: Boolean(preset?.schedule),
    ...scheduleValues(preset?.schedule?.rule, preset?.schedule?.at, preset?.schedule?.zone),
    until: preset?.schedule?.until ?? "",
    todos: (preset?.todos ?? []).map(todoLine).join("\n"),
  };
  const { form, typed, theirs } = useSharedForm(given);
  const scheduled = useWatch({ control: form.control, name: "scheduled" });
  const parts = (names: (keyof Values)[]) => new Set(names.map((name) => PARTS[name] ?? "Schedule"));
  const own = parts(typed);
  if (left.size > 0 || typed.includes("like")) own.add("Settings");
  const send = (values: Values) => {
    const rule = ruleOf(values);
    if (values.scheduled && rule === null) return form.setError("often", { message: NO_DAY });
    const kept = Object.fromEntries(Object.entries(preset?.settings ?? {}).filter(([name]) => !left.has(name)));
    const body: PresetBody = {
      name: values.name,
      note: values.note,
      from_site: values.like ? Number(values.like) : null,
      settings: kept,
      schedule:
        values.scheduled && rule
          ? { rule, at: values.at, until: values.until, zone: values.zone, mail_to: preset?.schedule?.mail_to ?? [] }
          : null,
      todos: todosIn(values.todos, preset?.todos),
    };
    const done = (made: Preset) => {
      say(`${made.name} is saved.`);
      close();
    };
    if (preset) change.mutate(body, { onSuccess: done });
    else add.mutate(body, { onSuccess: done });
  };
  return (
    <Form form={form} error={preset ? change.error : add.error} onSend={send}>
      <Field name="name" label="Name" required longest={100} />
      <Field name="note" label="What it is for" longest={2000} />
      <fieldset>
        <legend className="text-ink-2 mb-1 text-sm font-medium">Settings</legend>
        {preset && (
          <div className="mb-2">
            <Settings
              settings={preset.settings}
              without={left}
              onRemove={(name) => setLeft(new Set([...left, name]))}
            />
          </div>
        )}
        <Field
          name="like"
          label="Take the settings of a site"
          kind="choice"
          hint="All that differ from the defaults, but for what belongs to that site alone"
          choices={[{ value: "", label: "none" }, ...all.map((s: Site) => ({ value: String(s.id), label: s.host }))]}
        />
      </fieldset>
      <Field name="scheduled" label="With a schedule" kind="tick" />
      {scheduled && <ScheduleFields until />}
      <Field
        name="todos"
        label="First to-dos of a new client"
        kind="long"
        rows={4}
        hint="One on a line; “, 5 days” at the end: due in so many working days"
      />
      <Meanwhile
        what="this preset"
        changes={[...parts(theirs)].map((label) => ({ label, own: own.has(label) }))}
        onTake={() => {
          form.reset(given, ALL);
          setLeft(new Set());
          change.reset();
        }}
      />
      <div className="flex gap-2">
        <Button main type="submit" disabled={add.isPending || change.isPending}>
          Save preset
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
