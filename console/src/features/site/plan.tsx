import { useState } from "react";
import type { Plan, Waiver } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, moment } from "../../lib/words";
import { Address, Button, Card, Field, LinkButton, Loaded, Table, Trouble } from "../../ui/parts";
import { useSite } from "./context";

type Setting = { name: string; label: string; hint: string; kind: "number" | "text" | "list" | "bool" };
const SETTINGS: Setting[] = [
  { name: "start", label: "Start addresses", hint: "One a line; the crawl begins here", kind: "list" },
  {
    name: "pages_max",
    label: "Pages at most",
    hint: "The crawl ends here; pages beyond are unverified",
    kind: "number",
  },
  { name: "rate_per_s", label: "Requests per second", hint: "For each host; fewer is gentler", kind: "number" },
  { name: "parallel", label: "Requests at once", hint: "For each host", kind: "number" },
  { name: "path_prefix", label: "Only below this path", hint: "Such as /shop/; empty: the whole host", kind: "text" },
  { name: "drop_parameters", label: "Query parameters to drop", hint: "One a line, such as sessionid", kind: "list" },
  { name: "checks_off", label: "Checks switched off", hint: "Ids, one a line", kind: "list" },
  {
    name: "obey_robots",
    label: "Obey robots.txt",
    hint: "Switch off only for sites we are hired to audit",
    kind: "bool",
  },
  { name: "obey_crawl_delay", label: "Obey Crawl-delay", hint: "The pause that robots.txt asks for", kind: "bool" },
  { name: "agent", label: "User-Agent", hint: "How we introduce ourselves", kind: "text" },
  { name: "time_zone", label: "Time zone", hint: "Such as Europe/London", kind: "text" },
];

export function PlanScreen() {
  const { site } = useSite();
  const plan = useRead<Plan>(`/sites/${site.id}/plan`);
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Card title="Plan" aside="changes affect future runs only">
        <Loaded query={plan} tall={12}>
          {(data) => <PlanForm key={data.version} plan={data} />}
        </Loaded>
      </Card>
      <div className="min-w-0 space-y-3.5">
        {site.kind === "own" && <ScheduleCard />}
        <Waivers />
      </div>
    </div>
  );
}

function PlanForm({ plan }: { plan: Plan }) {
  const { site } = useSite();
  const given = plan.values as Record<string, unknown>;
  const [values, setValues] = useState<Record<string, string | boolean>>(() =>
    Object.fromEntries(
      SETTINGS.map((s) => [
        s.name,
        s.kind === "bool"
          ? Boolean(given[s.name])
          : s.kind === "list"
            ? (given[s.name] as string[]).join("\n")
            : String(given[s.name]),
      ]),
    ),
  );
  const save = useChange<{ values: Record<string, unknown> }>("PATCH", `/sites/${site.id}/plan`, plan.version);
  const send = () =>
    save.mutate({
      values: Object.fromEntries(
        SETTINGS.map((s) => {
          const value = values[s.name];
          if (s.kind === "number") return [s.name, Number(value)];
          if (s.kind === "list")
            return [
              s.name,
              String(value)
                .split("\n")
                .map((t) => t.trim())
                .filter(Boolean),
            ];
          return [s.name, value];
        }),
      ),
    });
  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        {SETTINGS.map((s) => (
          <Field key={s.name} label={s.label} hint={s.hint}>
            {(c) =>
              s.kind === "bool" ? (
                <input
                  type="checkbox"
                  className="size-4"
                  checked={Boolean(values[s.name])}
                  onChange={(e) => setValues({ ...values, [s.name]: e.target.checked })}
                />
              ) : s.kind === "list" ? (
                <textarea
                  className={`${c} font-mono text-sm`}
                  rows={2}
                  value={String(values[s.name])}
                  onChange={(e) => setValues({ ...values, [s.name]: e.target.value })}
                />
              ) : (
                <input
                  className={c}
                  type={s.kind === "number" ? "number" : "text"}
                  step="any"
                  value={String(values[s.name])}
                  onChange={(e) => setValues({ ...values, [s.name]: e.target.value })}
                />
              )
            }
          </Field>
        ))}
      </div>
      {save.error && <Trouble error={save.error} />}
      {save.isSuccess && (
        <p role="status" className="text-good">
          Saved. The next run uses it.
        </p>
      )}
      <Button main type="submit" disabled={save.isPending}>
        Save the plan
      </Button>
    </form>
  );
}

function ScheduleCard() {
  const { site } = useSite();
  const now = site.schedule;
  const [values, setValues] = useState({
    rule: now?.rule ?? "weekly:TU",
    at: now?.at ?? "02:00",
    zone: now?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
    mail: (now?.mail_to ?? []).join(", "),
  });
  const save = useChange<Record<string, unknown>>("PUT", `/sites/${site.id}/schedule`);
  const remove = useChange<Record<string, never>>("DELETE", `/sites/${site.id}/schedule`);
  return (
    <Card title="Schedule" aside={now ? <LinkButton onClick={() => remove.mutate({})}>remove</LinkButton> : undefined}>
      <p className="text-ink-2 mb-2">
        {now ? `${now.words}; next ${moment(now.next_due_at)} in your time` : "This site is audited only by hand."}
      </p>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate({
            rule: values.rule,
            at: values.at,
            zone: values.zone,
            mail_to: values.mail
              .split(",")
              .map((t) => t.trim())
              .filter(Boolean),
          });
        }}
      >
        <div className="grid gap-3 sm:grid-cols-3">
          <Field label="How often" hint="daily, weekly:TU, monthly:1">
            {(c) => (
              <input
                className={c}
                required
                value={values.rule}
                onChange={(e) => setValues({ ...values, rule: e.target.value })}
              />
            )}
          </Field>
          <Field label="At">
            {(c) => (
              <input
                className={c}
                type="time"
                required
                value={values.at}
                onChange={(e) => setValues({ ...values, at: e.target.value })}
              />
            )}
          </Field>
          <Field label="Time zone">
            {(c) => (
              <input
                className={c}
                required
                value={values.zone}
                onChange={(e) => setValues({ ...values, zone: e.target.value })}
              />
            )}
          </Field>
        </div>
        <Field label="Mail when done" hint="Addresses with commas between them">
          {(c) => (
            <input className={c} value={values.mail} onChange={(e) => setValues({ ...values, mail: e.target.value })} />
          )}
        </Field>
        {save.error && <Trouble error={save.error} />}
        <Button type="submit" disabled={save.isPending}>
          Save the schedule
        </Button>
      </form>
    </Card>
  );
}

function Waivers() {
  const { site } = useSite();
  const waivers = useRead<Waiver[]>(`/sites/${site.id}/waivers`);
  const remove = useChange<number>("DELETE", (id) => `/waivers/${id}`);
  return (
    <Card title="Waivers" aside="still examined, never counted">
      <Loaded query={waivers} tall={3}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Waivers"
            empty="Nothing is waived on this site."
            columns={[
              {
                head: "Check",
                cell: (r) => (
                  <>
                    {r.summary}
                    {r.pattern && (
                      <div>
                        <Address text={r.pattern} chars={42} />
                      </div>
                    )}
                    <div className="text-ink-3 text-sm">
                      {r.reason}
                      {r.author && ` (${r.author})`}
                    </div>
                  </>
                ),
              },
              { head: "Until", cell: (r) => (r.end ? day(r.end) : "no end") },
              {
                head: <span className="sr-only">Remove</span>,
                cell: (r) => (
                  <LinkButton aria-label={`End the waiver of ${r.summary}`} onClick={() => remove.mutate(r.id)}>
                    end
                  </LinkButton>
                ),
              },
            ]}
          />
        )}
      </Loaded>
    </Card>
  );
}
