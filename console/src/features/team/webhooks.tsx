import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useChange } from "../../api/change";
import { clients } from "../../api/queries/sites";
import { webhooks } from "../../api/queries/team";
import type { Webhook, WebhookBody } from "../../api/types";
import { moment, plural } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton, ShownOnce } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";

type Topic = NonNullable<WebhookBody["topics"]>[number];

const TOPICS: readonly { topic: Topic; label: string }[] = [
  { topic: "alert.raised", label: "an alert is raised" },
  { topic: "alert.cleared", label: "an alert is cleared" },
  { topic: "run.started", label: "a run begins" },
  { topic: "run.done", label: "a run is done" },
  { topic: "run.stopped", label: "a run is stopped" },
  { topic: "run.failed", label: "a run fails" },
  { topic: "comparison.ready", label: "a run is compared with the one before" },
  { topic: "todo.added", label: "a to-do is created" },
  { topic: "todo.changed", label: "a to-do is changed" },
  { topic: "todo.commented", label: "a to-do is commented on" },
  { topic: "todo.confirmed", label: "a to-do is confirmed" },
  { topic: "todo.reopened", label: "a to-do is opened again" },
];

/** Other programs that are told what happens. */
export function Webhooks() {
  const found = useQuery(webhooks.all());
  const [logged, setLogged] = useState<number | null>(null);
  const change = useChange(webhooks.change());
  const tried = useChange(webhooks.tryOut());
  const remove = useChange(webhooks.remove());
  const renew = useChange(webhooks.renew());
  const say = useSay();
  const error = change.error ?? tried.error ?? remove.error ?? renew.error;
  return (
    <Card id="webhooks" title="Webhooks" aside="other programs that are told what happens, signed">
      {error && <Trouble error={error} />}
      {renew.data?.secret && <Secret webhook={renew.data} />}
      <Loaded query={found} tall={2}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Webhooks"
            empty="No webhooks. Add one for a chat, a ticket system or a program of your own."
            columns={[
              {
                head: "Webhook",
                sort: (r) => r.name.toLowerCase(),
                cell: (r) => (
                  <>
                    <b className="font-semibold">{r.name}</b>
                    {!r.active && <span className="text-ink-3"> (off)</span>}
                    <div className="text-ink-3 text-sm break-all">{r.url}</div>
                    <div className="text-ink-2 text-sm">
                      {r.topics.length ? r.topics.join(", ") : "everything"}
                      {r.client_name && `, of ${r.client_name} only`}
                    </div>
                  </>
                ),
              },
              { head: "State", cell: (r) => <State webhook={r} /> },
              {
                head: "Change",
                quiet: true,
                cell: (r) => (
                  <span className="flex flex-wrap gap-x-3">
                    <LinkButton
                      aria-expanded={logged === r.id}
                      onClick={() => setLogged(logged === r.id ? null : r.id)}
                    >
                      log
                    </LinkButton>
                    <LinkButton
                      disabled={!r.active}
                      onClick={() => tried.mutate(r.id, { onSuccess: () => say("A test message is sent now.") })}
                    >
                      test
                    </LinkButton>
                    <LinkButton onClick={() => renew.mutate(r.id)}>new secret</LinkButton>
                    <LinkButton onClick={() => change.mutate({ id: r.id, active: !r.active })}>
                      {r.active ? "switch off" : "switch on"}
                    </LinkButton>
                    <LinkButton
                      onClick={() =>
                        remove.mutate(r.id, { onSuccess: () => say(`${r.name} is told nothing any more.`) })
                      }
                    >
                      remove
                    </LinkButton>
                  </span>
                ),
              },
            ]}
          />
        )}
      </Loaded>
      {logged !== null && <Log key={logged} id={logged} />}
      <AddWebhook />
    </Card>
  );
}

function State({ webhook }: { webhook: Webhook }) {
  const lines = [
    webhook.waiting ? `${plural(webhook.waiting, "message")} waiting` : "",
    webhook.given_up ? `${plural(webhook.given_up, "message")} given up` : "",
    webhook.last_at && !webhook.last_error ? `last told ${moment(webhook.last_at)}` : "",
    webhook.last_at ? "" : "not told anything yet",
  ].filter(Boolean);
  return (
    <>
      {lines.map((line) => (
        <div key={line}>{line}</div>
      ))}
      {webhook.last_error && (
        <div className="text-bad max-w-80 text-sm break-words">
          {webhook.last_error}
          {webhook.paused_until && ` Tried again ${moment(webhook.paused_until)}.`}
        </div>
      )}
    </>
  );
}

function Secret({ webhook }: { webhook: Webhook }) {
  return (
    <ShownOnce code={webhook.secret ?? ""}>
      The secret of {webhook.name}. Give it to the receiver now, it is not shown again:
    </ShownOnce>
  );
}

function Log({ id }: { id: number }) {
  const found = useQuery(webhooks.log(id));
  const again = useChange(webhooks.again(id));
  const say = useSay();
  return (
    <div className="bg-sunk mt-2 rounded-md px-3 py-2">
      {again.error && <Trouble error={again.error} />}
      <Loaded query={found} tall={3}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Messages of the last thirty days"
            empty="It has been told nothing yet. Send a test message."
            columns={[
              { head: "Happened", cell: (r) => <span className="whitespace-nowrap">{moment(r.at)}</span> },
              {
                head: "Message",
                cell: (r) => (
                  <details>
                    <summary>{r.topic}</summary>
                    <pre className="max-h-60 overflow-auto text-sm break-all whitespace-pre-wrap">{r.body}</pre>
                  </details>
                ),
              },
              {
                head: "State",
                cell: (r) => (
                  <>
                    {r.state}
                    {r.status !== null && ` (${r.status})`}
                    {r.error && <div className="text-bad max-w-72 text-sm break-words">{r.error}</div>}
                  </>
                ),
              },
              {
                head: "Send again",
                quiet: true,
                cell: (r) => (
                  <LinkButton
                    aria-label={`Send message ${r.id} again`}
                    onClick={() => again.mutate(r.id, { onSuccess: () => say("The message is sent now.") })}
                  >
                    send again
                  </LinkButton>
                ),
              },
            ]}
          />
        )}
      </Loaded>
    </div>
  );
}

type Values = { name: string; url: string; client: string; all: boolean } & Record<string, string | boolean>;

function AddWebhook() {
  const firms = useQuery(clients.all()).data ?? [];
  const form = useForm<Values>({ defaultValues: { name: "", url: "", client: "", all: true } });
  const all = useWatch({ control: form.control, name: "all" });
  const add = useChange(webhooks.add());
  return (
    <>
      {add.data?.secret && <Secret webhook={add.data} />}
      <Form
        form={form}
        error={add.error}
        className="mt-3 space-y-3"
        onSend={(values) =>
          add.mutate(
            {
              name: values.name,
              url: values.url,
              client_id: values.client ? Number(values.client) : null,
              topics: values.all ? [] : TOPICS.filter(({ topic }) => values[keyOf(topic)] === true).map((t) => t.topic),
            },
            { onSuccess: () => form.reset() },
          )
        }
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <Field name="name" label="Name" required />
          <Field name="url" label="Address" placeholder="https://" required />
          <Field
            name="client"
            label="About"
            kind="choice"
            choices={[
              { value: "", label: "all clients" },
              ...firms.map((firm) => ({ value: String(firm.id), label: `${firm.name} only` })),
            ]}
          />
        </div>
        <Field name="all" label="Told of everything" kind="tick" />
        {!all && (
          <fieldset className="grid gap-x-4 gap-y-1.5 sm:grid-cols-2">
            <legend className="text-ink-3 mb-1 text-sm">Told when</legend>
            {TOPICS.map(({ topic, label }) => (
              <Field key={topic} name={keyOf(topic)} label={label} kind="tick" />
            ))}
          </fieldset>
        )}
        <Button type="submit" disabled={add.isPending}>
          Add webhook
        </Button>
      </Form>
    </>
  );
}

/** A name for the form, where a full stop would mean a field within another. */
const keyOf = (topic: Topic) => topic.replace(".", " ");
