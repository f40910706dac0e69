import { useState } from "react";
import type { Plan, Waiver } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, moment } from "../../lib/words";
import { Address, Button, Card, Field, LinkButton, Loaded, Table, Trouble } from "../../ui/parts";
import { AccessCard } from "./access";
import { useSite } from "./context";
import { PlanForm } from "./plan-form";
import { ShareCard } from "./share-plan";

export function PlanScreen() {
  const { site } = useSite();
  const plan = useRead<Plan>(`/sites/${site.id}/plan`);
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Card title="Plan" aside="changes affect future runs only">
        <Loaded query={plan} tall={12}>
          {(data) => <PlanForm plan={data} />}
        </Loaded>
      </Card>
      <div className="min-w-0 space-y-3.5">
        {site.kind === "own" && <ScheduleCard />}
        <AccessCard />
        <ShareCard />
        <Waivers />
      </div>
    </div>
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
