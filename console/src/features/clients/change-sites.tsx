/** Changes several sites at once: what is wanted, what would become of each, and then all of them or none. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { sendThen, useChange } from "../../api/change";
import { presets, sites as queries } from "../../api/queries/sites";
import type { Site, SiteDraft, SitesPick } from "../../api/types";
import { moment, plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { NO_DAY, ruleOf, ScheduleFields, type ScheduleValues, scheduleValues } from "../site/schedule-fields";
import { labelsIn } from "../todos/fields";

export function ChangeSites({ sites, done }: { sites: readonly Site[]; done: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Change…</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={`Change ${plural(sites.length, "site")}`}
        description="You see what becomes of each site before anything is changed. All of them are changed, or none."
      >
        {open && <Steps sites={sites} done={done} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

type Doing = "stays" | "set" | "none" | "pause" | "resume";
interface Values extends ScheduleValues {
  preset: string;
  doing: Doing;
  until: string;
  pages_max: string;
  rate_per_s: string;
  add: string;
  remove: string;
}

/** What is asked of the service; null where nothing was chosen. */
export function pickOf(site_ids: number[], values: Values, rule: string | null): SitesPick | null {
  const number = (text: string) => (text.trim() ? Number(text) : undefined);
  const settings = Object.entries({
    pages_max: number(values.pages_max),
    rate_per_s: number(values.rate_per_s),
  }).filter(([, value]) => value !== undefined);
  const pick: SitesPick = {
    site_ids,
    preset_id: values.preset ? Number(values.preset) : null,
    values: Object.fromEntries(settings),
    schedule:
      values.doing === "set" && rule
        ? { rule, at: values.at, until: values.until, zone: values.zone, mail_to: [] }
        : null,
    no_schedule: values.doing === "none",
    paused: values.doing === "pause" ? true : values.doing === "resume" ? false : null,
    add_tags: labelsIn(values.add),
    remove_tags: labelsIn(values.remove),
  };
  const chosen =
    pick.preset_id !== null ||
    settings.length > 0 ||
    values.doing !== "stays" ||
    (pick.add_tags ?? []).length + (pick.remove_tags ?? []).length > 0;
  return chosen ? pick : null;
}

function Steps({ sites, done, close }: { sites: readonly Site[]; done: () => void; close: () => void }) {
  const [drafts, setDrafts] = useState<SiteDraft[] | null>(null);
  const known = useQuery(presets.all()).data ?? [];
  const form = useForm<Values>({
    defaultValues: {
      preset: "",
      doing: "stays",
      ...scheduleValues(),
      until: "",
      pages_max: "",
      rate_per_s: "",
      add: "",
      remove: "",
    },
  });
  const plan = useChange(queries.planChanges());
  const send = (values: Values) => {
    const rule = ruleOf(values);
    if (values.doing === "set" && rule === null) return form.setError("often", { message: NO_DAY });
    const pick = pickOf(
      sites.map((s) => s.id),
      values,
      rule,
    );
    if (!pick) return form.setError("preset", { message: "Choose what to change." });
    sendThen(plan, pick, setDrafts);
  };
  if (drafts) return <Preview drafts={drafts} back={() => setDrafts(null)} done={done} close={close} />;
  return (
    <Form form={form} error={plan.error} onSend={send}>
      <Field
        name="preset"
        label="Preset"
        kind="choice"
        hint="Its settings and schedule; what you choose below wins"
        choices={[{ value: "", label: "none" }, ...known.map((p) => ({ value: String(p.id), label: p.name }))]}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <Field name="pages_max" label="Page limit" kind="number" hint="Empty: as it is" />
        <Field name="rate_per_s" label="Requests per second" kind="number" hint="Empty: as it is" />
      </div>
      <Field
        name="doing"
        label="Schedule"
        kind="choice"
        choices={[
          { value: "stays", label: "leave as it is" },
          { value: "set", label: "set for all" },
          { value: "pause", label: "pause" },
          { value: "resume", label: "resume" },
          { value: "none", label: "remove" },
        ]}
      />
      <WhenSet />
      <div className="grid gap-3 sm:grid-cols-2">
        <Field name="add" label="Add tags" hint="Separate them with commas" />
        <Field name="remove" label="Remove tags" />
      </div>
      <div className="flex gap-2">
        <Button main type="submit" disabled={plan.isPending}>
          Show what changes
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}

function WhenSet() {
  const doing = useWatch<Values, "doing">({ name: "doing" });
  return doing === "set" ? <ScheduleFields until /> : null;
}

function Preview({
  drafts,
  back,
  done,
  close,
}: {
  drafts: SiteDraft[];
  back: () => void;
  done: () => void;
  close: () => void;
}) {
  const say = useSay();
  const change = useChange(queries.changeAll());
  const undo = useChange(queries.changeAll());
  const changing = drafts.filter((d) => d.differences.length > 0);
  const send = () =>
    sendThen(
      change,
      drafts.map((d) => d.change),
      (made) => {
        say(`${plural(made.changed, "site")} changed.`, () =>
          sendThen(
            undo,
            made.undo,
            () => say("Undone."),
            (problem) => say(`${problem.detail} ${problem.hint}`),
          ),
        );
        done();
        close();
      },
    );
  return (
    <>
      <p className="mb-2">
        {changing.length === 0
          ? "Nothing would change: the sites are so already."
          : `${plural(changing.length, "site")} of ${drafts.length} would change.`}
      </p>
      <div className="mb-3">
        <Table
          rows={changing}
          id={(d) => d.change.site_id}
          caption="What would change"
          empty=""
          columns={[
            { head: "Site", cell: (d) => d.host },
            {
              head: "What changes",
              cell: (d) =>
                d.differences.map((each) => (
                  <div key={each.name}>
                    {each.name}: <s className="text-ink-3">{each.before}</s> {each.after}
                  </div>
                )),
            },
            { head: "Next run", cell: (d) => moment(d.next_due_at) },
          ]}
        />
      </div>
      {change.error && <Trouble error={change.error} />}
      <div className="flex items-center gap-3">
        <Button main disabled={changing.length === 0 || change.isPending} onClick={send}>
          Change {plural(changing.length, "site")}
        </Button>
        <LinkButton onClick={back}>back</LinkButton>
      </div>
    </>
  );
}
