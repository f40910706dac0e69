import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { plans, sites, waivers } from "../../api/queries/sites";
import { day, moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Address, Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { AccessCard } from "./access";
import { useSite } from "./context";
import { PlanForm } from "./plan-form";
import { ShareCard } from "./share-plan";

export function PlanScreen() {
  const { site } = useSite();
  const may = useMay();
  const plan = useQuery(plans.of(site.id));
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Card title="Plan" aside="applies from the next run">
        <Loaded query={plan} tall={12}>
          {(data) => <PlanForm plan={data} />}
        </Loaded>
      </Card>
      <div className="min-w-0 space-y-3.5">
        {site.kind === "own" && <ScheduleCard />}
        {may("get_access") && <AccessCard />}
        {may("replace_plan") && <ShareCard />}
        <Waivers />
      </div>
    </div>
  );
}

function ScheduleCard() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const now = site.schedule;
  const form = useForm({
    defaultValues: {
      rule: now?.rule ?? "weekly:TU",
      at: now?.at ?? "02:00",
      zone: now?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
      mail: (now?.mail_to ?? []).join(", "),
    },
  });
  const save = useChange(sites.setSchedule(site.id));
  const remove = useChange(sites.removeSchedule(site.id));
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
      <p className="text-ink-2 mb-2">
        {now ? `${now.words}; next ${moment(now.next_due_at)} in your time` : "This site is audited only by hand."}
      </p>
      {remove.error && <Trouble error={remove.error} />}
      {may("set_schedule") && (
        <Form
          form={form}
          error={save.error}
          onSend={({ rule, at, zone, mail }) =>
            save.mutate(
              {
                rule,
                at,
                zone,
                mail_to: mail
                  .split(",")
                  .map((t) => t.trim())
                  .filter(Boolean),
              },
              { onSuccess: () => say("The schedule is saved.") },
            )
          }
        >
          <div className="grid gap-3 sm:grid-cols-3">
            <Field name="rule" label="How often" required hint="daily, weekly:TU, monthly:1" />
            <Field name="at" label="At" kind="time" required />
            <Field name="zone" label="Time zone" required />
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

function Waivers() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const found = useQuery(waivers.of(site.id));
  const end = useChange(waivers.end(site.id));
  return (
    <Card title="Waivers" aside="still examined, not counted">
      {end.error && <Trouble error={end.error} />}
      <Loaded query={found} tall={3}>
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
                head: "Remove",
                quiet: true,
                cell: (r) =>
                  may("remove_waiver") && (
                    <LinkButton
                      aria-label={`End the waiver of ${r.summary}`}
                      onClick={() => end.mutate(r.id, { onSuccess: () => say("The waiver ends with the next run.") })}
                    >
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
