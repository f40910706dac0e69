/** A new client in one form: the site is looked at first, and what suits it is filled in. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { clients, presets } from "../../api/queries/sites";
import { members, session } from "../../api/queries/team";
import type { FirstLook, NewClient } from "../../api/types";
import { count, span } from "../../lib/words";
import { Tick } from "../../ui/controls";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { NO_DAY, ruleOf, ScheduleFields, type ScheduleValues, scheduleValues } from "../site/schedule-fields";
import { labelsIn } from "../todos/fields";

export function NewClientScreen() {
  const [look, setLook] = useState<FirstLook | null>(null);
  return (
    <>
      <Title of={["New client", "Clients"]} />
      <Heading over={<Link to="/clients">Clients</Link>} title="New client" />
      <div className="mt-3.5 max-w-4xl">
        {look ? <SetUp look={look} again={() => setLook(null)} /> : <LookFirst done={setLook} />}
      </div>
    </>
  );
}

function LookFirst({ done }: { done: (look: FirstLook) => void }) {
  const form = useForm({ defaultValues: { address: "" } });
  const look = useChange(clients.look());
  return (
    <Card title="Which site is it about?">
      <p className="text-ink-2 mb-3">
        A few pages, robots.txt and the sitemaps are fetched, so that settings can be proposed. Nothing is kept yet.
      </p>
      <Form form={form} error={look.error} onSend={({ address }) => look.mutate(address, { onSuccess: done })}>
        <Field name="address" label="URL of the site" required hint="e.g. https://shop.example/" autoFocus />
        <Button main type="submit" disabled={look.isPending}>
          {look.isPending ? "Looking at the site …" : "Look at the site"}
        </Button>
        {look.isPending && (
          <p role="status" className="text-ink-3">
            This takes a few seconds, up to 40 with a slow site.
          </p>
        )}
      </Form>
    </Card>
  );
}

interface Values extends ScheduleValues {
  name: string;
  owner: string;
  tags: string;
  preset: string;
  scheduled: boolean;
  competitors: string;
  guests: string;
  run: boolean;
}

/** People as they are typed: a name and an address on each line. */
export function guestsIn(text: string): { name: string; email: string }[] | null {
  const lines = text.split("\n").filter((line) => line.trim());
  const found = lines.map((line) => /^\s*(.*?)[\s,<]+([^\s@<>,]+@[^\s@<>,]+)[\s>]*$/.exec(line));
  if (found.some((match) => !match?.[1])) return null;
  return found.map((match) => ({ name: match?.[1]?.trim() ?? "", email: match?.[2] ?? "" }));
}

function SetUp({ look, again }: { look: FirstLook; again: () => void }) {
  const me = useQuery(session.me()).data;
  const say = useSay();
  const navigate = useNavigate();
  const people = (useQuery(members.all()).data ?? []).filter((m) => m.active && m.role !== "guest");
  const known = useQuery(presets.all()).data ?? [];
  const setUp = useChange(clients.setUp());
  const [taken, setTaken] = useState(() => new Set(look.proposals.map((p) => p.name)));
  const form = useForm<Values>({
    defaultValues: {
      name: "",
      owner: me ? String(me.id) : "",
      tags: "",
      preset: "",
      scheduled: true,
      ...scheduleValues(look.schedule.rule, look.schedule.at, look.schedule.zone),
      competitors: "",
      guests: "",
      run: true,
    },
  });
  const send = (values: Values) => {
    const rule = ruleOf(values);
    if (values.scheduled && rule === null) return form.setError("often", { message: NO_DAY });
    const guests = guestsIn(values.guests);
    if (guests === null) return form.setError("guests", { message: "Give a name and an email address on each line." });
    const plan = Object.fromEntries(
      look.proposals.filter((p) => p.name !== "start" && taken.has(p.name)).map((p) => [p.name, p.value]),
    ) as NewClient["plan"];
    setUp.mutate(
      {
        name: values.name,
        address: look.address,
        plan,
        preset_id: values.preset ? Number(values.preset) : null,
        schedule: values.scheduled && rule ? { rule, at: values.at, zone: values.zone, mail_to: [] } : null,
        competitors: values.competitors.split(/\s+/).filter(Boolean),
        owner_id: values.owner ? Number(values.owner) : null,
        tags: labelsIn(values.tags),
        guests,
        start_run: values.run,
      },
      {
        onSuccess: (made) => {
          say(`${made.client.name} is set up.`);
          void navigate(made.run_id ? `/sites/${made.site.id}` : `/clients/${made.client.id}`);
        },
      },
    );
  };
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[2fr_3fr]">
      <Card
        title={look.host}
        aside={
          <button className="text-accent hover:underline" onClick={again}>
            another site
          </button>
        }
      >
        <Table
          bare
          rows={look.facts}
          id={(f) => f.name}
          caption="What was seen"
          empty=""
          columns={[
            { head: "What", cell: (f) => <span className="text-ink-2">{f.name}</span> },
            { head: "Seen", cell: (f) => <span className="wrap-anywhere">{f.value}</span> },
          ]}
        />
        <p className="mt-2">
          About {count(look.pages)} pages; an audit takes about {span(look.minutes * 60)}.
        </p>
        {look.notices.map((notice) => (
          <p key={notice} className="text-ink-2 mt-1">
            {notice}
          </p>
        ))}
      </Card>
      <Card title="Set up">
        <Form form={form} error={setUp.error} onSend={send}>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="name" label="Name of the client" required longest={200} autoFocus />
            <Field
              name="owner"
              label="In charge"
              kind="choice"
              choices={[{ value: "", label: "nobody" }, ...people.map((m) => ({ value: String(m.id), label: m.name }))]}
            />
          </div>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field name="tags" label="Tags" hint="Separate them with commas" />
            <Field
              name="preset"
              label="Preset"
              kind="choice"
              hint="Settings and first to-dos"
              choices={[{ value: "", label: "none" }, ...known.map((p) => ({ value: String(p.id), label: p.name }))]}
            />
          </div>
          <fieldset>
            <legend className="text-ink-2 mb-1 text-sm font-medium">Settings that suit the site</legend>
            {look.proposals.length === 0 && <p className="text-ink-3">The default settings suit it.</p>}
            {look.proposals.map((p) => (
              <div key={p.name} className="flex items-start gap-2 py-1">
                <Tick
                  label={`Use: ${p.label}`}
                  checked={taken.has(p.name)}
                  disabled={p.name === "start"}
                  onChange={(on) =>
                    setTaken(new Set([...taken].filter((n) => n !== p.name).concat(on ? [p.name] : [])))
                  }
                />
                <span className="wrap-anywhere">
                  {p.label}: <b className="font-semibold">{p.shown}</b>{" "}
                  <span className="text-ink-3 text-sm">{p.reason}</span>
                </span>
              </div>
            ))}
          </fieldset>
          <fieldset className="space-y-3">
            <Field name="scheduled" label="Audit it on a schedule" kind="tick" />
            <p className="text-ink-3 text-sm">{look.schedule_reason}</p>
            <ScheduleFields />
          </fieldset>
          <Field
            name="competitors"
            label="Competitors"
            kind="long"
            mono
            hint="URLs, one on a line, at most ten; with any there is a benchmark"
          />
          <Field
            name="guests"
            label="Invite people of the client"
            kind="long"
            hint="A name and an email address on each line; they are sent a link and may read reports"
          />
          <Field name="run" label="Start the first audit now" kind="tick" />
          <div className="flex gap-2">
            <Button main type="submit" disabled={setUp.isPending}>
              Set up client
            </Button>
          </div>
        </Form>
      </Card>
    </div>
  );
}
