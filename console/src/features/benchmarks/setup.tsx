/** Setting a benchmark up and changing it: who stands against whom, how much is examined, when rounds begin by themselves. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sites } from "../../api/queries/sites";
import { benchmarks } from "../../api/queries/work";
import type { Benchmark, Site } from "../../api/types";
import { moment } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { NO_DAY, ruleOf, ScheduleFields, type ScheduleValues, scheduleValues } from "../site/schedule-fields";

const COMPETITORS_MAX = 10;

/** Sets up a new benchmark. */
export function NewBenchmark() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button main onClick={() => setOpen(true)}>
        New benchmark
      </Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="New benchmark"
        description="One of a client's sites against its competitors: all are crawled with the same settings and judged by the catalogue's own limits."
      >
        {open && <NewForm close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function NewForm({ close }: { close: () => void }) {
  const go = useNavigate();
  const all = useQuery(sites.all()).data ?? [];
  const own = all.filter((site) => site.kind === "own");
  const form = useForm<Values>({ defaultValues: { name: "", site: "", pages: "500", rate: "5" } });
  const siteId = useWatch({ control: form.control, name: "site" });
  const chosen = own.find((site) => String(site.id) === siteId);
  const [problem, setProblem] = useState("");
  const add = useChange(benchmarks.add());
  const rivals = all.filter((site) => site.kind === "competitor" && site.client_id === chosen?.client_id);
  return (
    <Form
      form={form}
      error={add.error}
      onSend={(values) => {
        const body = bodyOf(values, rivals);
        if (typeof body === "string") return setProblem(body);
        setProblem("");
        sendThen(add, { ...body, site_id: Number(values.site) }, (made) => {
          close();
          void go(`/benchmarks/${made.id}`);
        });
      }}
    >
      <Field
        name="site"
        label="Our site"
        kind="choice"
        required
        choices={own.map((site) => ({ value: String(site.id), label: `${site.host}, ${site.client_name}` }))}
        onChanged={(id) => {
          const site = own.find((each) => String(each.id) === id);
          if (site && !form.getValues("name")) form.setValue("name", site.client_name);
        }}
      />
      <Field name="name" label="Name" required longest={200} />
      {chosen && <Rivals rivals={rivals} />}
      <Limits />
      {problem && (
        <p role="alert" className="text-bad text-sm">
          {problem}
        </p>
      )}
      <Buttons busy={add.isPending} close={close} label="Set up" />
    </Form>
  );
}

type Values = { name: string; site: string; pages: string; rate: string } & Record<`rival${number}`, boolean>;

/** What is sent, or what is wrong with it. */
function bodyOf(values: Values, rivals: readonly Site[]) {
  const competitor_ids = rivals.filter((site) => values[`rival${site.id}`]).map((site) => site.id);
  if (competitor_ids.length === 0) return "Choose at least one competitor.";
  if (competitor_ids.length > COMPETITORS_MAX) return `Choose ${COMPETITORS_MAX} competitors at most.`;
  const [pages_max, rate_per_s] = [Number(values.pages), Number(values.rate)];
  if (!Number.isInteger(pages_max) || pages_max < 1) return "Give a whole number of pages.";
  return { name: values.name.trim(), competitor_ids, pages_max, rate_per_s: rate_per_s > 0 ? rate_per_s : 5 };
}

function Rivals({ rivals }: { rivals: readonly Site[] }) {
  if (rivals.length === 0)
    return <p className="text-ink-3">This client has no competitors yet. Add them on the client's page.</p>;
  return (
    <fieldset>
      <legend className="text-ink-2 mb-1 text-sm font-semibold">Competitors</legend>
      {rivals.map((site) => (
        <Field key={site.id} name={`rival${site.id}`} label={site.host} kind="tick" />
      ))}
    </fieldset>
  );
}

function Limits() {
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Field name="pages" label="Pages of each site at most" required />
      <Field name="rate" label="Requests a second" required />
    </div>
  );
}

function Buttons({ busy, close, label }: { busy: boolean; close: () => void; label: string }) {
  return (
    <div className="flex gap-2">
      <Button main type="submit" disabled={busy}>
        {label}
      </Button>
      <Button onClick={close}>Cancel</Button>
    </div>
  );
}

/** Changes, and takes away, one that there is. */
export function EditBenchmark({ data }: { data: Benchmark }) {
  const may = useMay();
  const [open, setOpen] = useState(false);
  if (!may("change_benchmark")) return null;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Edit</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={`Edit ${data.name}`}
        description="Rounds that have ended stay as they were."
      >
        {open && <EditForm data={data} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function EditForm({ data, close }: { data: Benchmark; close: () => void }) {
  const may = useMay();
  const go = useNavigate();
  const all = useQuery(sites.all()).data ?? [];
  const own = all.find((site) => site.id === data.site_id);
  const rivals = all.filter((site) => site.kind === "competitor" && site.client_id === own?.client_id);
  const ticked = Object.fromEntries(data.competitor_ids.map((id) => [`rival${id}`, true]));
  const form = useForm<Values>({
    defaultValues: {
      name: data.name,
      pages: String(data.pages_max),
      rate: String(data.rate_per_s),
      site: "",
      ...ticked,
    },
  });
  const change = useChange(benchmarks.change(data.id));
  const remove = useChange(benchmarks.remove(data.id));
  const [sure, setSure] = useState(false);
  const [problem, setProblem] = useState("");
  return (
    <Form
      form={form}
      error={change.error ?? remove.error}
      onSend={(values) => {
        const body = bodyOf(values, rivals);
        if (typeof body === "string") return setProblem(body);
        setProblem("");
        sendThen(change, body, close);
      }}
    >
      <Field name="name" label="Name" required longest={200} />
      <Rivals rivals={rivals} />
      <Limits />
      {problem && (
        <p role="alert" className="text-bad text-sm">
          {problem}
        </p>
      )}
      <Buttons busy={change.isPending} close={close} label="Save" />
      {may("remove_benchmark") && (
        <p>
          {sure ? (
            <>
              {`It goes with its ${data.rounds} rounds, for good. `}
              <LinkButton onClick={() => sendThen(remove, undefined, () => void go("/benchmarks"))}>
                Remove it
              </LinkButton>
            </>
          ) : (
            <LinkButton onClick={() => setSure(true)}>Remove this benchmark</LinkButton>
          )}
        </p>
      )}
    </Form>
  );
}

/** When rounds begin by themselves. */
export function RoundSchedule({ data }: { data: Benchmark }) {
  const may = useMay();
  const say = useSay();
  const now = data.schedule;
  const [open, setOpen] = useState(false);
  const form = useForm<ScheduleValues>({
    defaultValues: scheduleValues(now?.rule ?? "monthly:1", now?.at ?? "03:00", now?.zone),
  });
  const save = useChange(benchmarks.setSchedule(data.id));
  const remove = useChange(benchmarks.removeSchedule(data.id));
  return (
    <Card
      title="Rounds"
      className="mt-3.5"
      aside={
        may("set_round_schedule") && (
          <span className="flex gap-3">
            <LinkButton onClick={() => setOpen(!open)}>{now ? "change" : "set a schedule"}</LinkButton>
            {now && (
              <LinkButton
                onClick={() => remove.mutate(undefined, { onSuccess: () => say("The schedule is removed.") })}
              >
                remove
              </LinkButton>
            )}
          </span>
        )
      }
    >
      <p className="text-ink-2 first-letter:uppercase">
        {now
          ? `${now.words}; next ${moment(now.next_due_at)} in your time`
          : "A round begins only when somebody asks for one."}
      </p>
      {remove.error && <Trouble error={remove.error} />}
      {open && (
        <Form
          form={form}
          className="mt-2 max-w-xl space-y-3"
          error={save.error}
          onSend={(values) => {
            const rule = ruleOf(values);
            if (rule === null) return form.setError("often", { message: NO_DAY });
            sendThen(save, { rule, at: values.at, zone: values.zone }, () => {
              say("The schedule is saved.");
              setOpen(false);
            });
          }}
        >
          <ScheduleFields />
          <Button type="submit" disabled={save.isPending}>
            Save schedule
          </Button>
        </Form>
      )}
    </Card>
  );
}
