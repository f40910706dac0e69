import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { clients } from "../../api/queries/sites";
import { feeds } from "../../api/queries/team";
import { day, moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton, ShownOnce } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";

/** One's own calendar feeds: due dates for a calendar program that subscribes to them. */
export function Feeds() {
  const found = useQuery(feeds.all());
  const firms = useQuery(clients.all()).data ?? [];
  const form = useForm({ defaultValues: { client: "" } });
  const add = useChange(feeds.add());
  const remove = useChange(feeds.remove());
  const say = useSay();
  return (
    <Card title="Calendar feeds" aside="due dates in your own calendar">
      {remove.error && <Trouble error={remove.error} />}
      <Loaded query={found} tall={2}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Calendar feeds"
            empty="No feeds yet. Make one and subscribe to its address in your calendar program."
            columns={[
              {
                head: "To-dos",
                cell: (r) => (
                  <>
                    {r.client_name ? `All of ${r.client_name}` : "Mine, and those I watch"}
                    <div className="text-ink-3 text-sm">
                      made {day(r.created_at)}, {r.read_at ? `last read ${moment(r.read_at)}` : "not read yet"}
                    </div>
                  </>
                ),
              },
              {
                head: "Remove",
                quiet: true,
                cell: (r) => (
                  <LinkButton
                    aria-label={`Remove the feed ${r.client_name || "of my to-dos"}`}
                    onClick={() =>
                      remove.mutate(r.id, { onSuccess: () => say("The feed is removed: its address answers no more.") })
                    }
                  >
                    remove
                  </LinkButton>
                ),
              },
            ]}
          />
        )}
      </Loaded>
      {add.data?.url && (
        <ShownOnce code={add.data.url}>
          Subscribe to this address now, it is not shown again. Who has it can read the feed:
        </ShownOnce>
      )}
      <Form
        form={form}
        error={add.error}
        className="mt-2 flex items-end gap-2"
        onSend={({ client }) => add.mutate({ client_id: client ? Number(client) : null })}
      >
        <div className="min-w-0 flex-1">
          <Field
            name="client"
            label="A feed of"
            kind="choice"
            choices={[
              { value: "", label: "my to-dos and those I watch" },
              ...firms.map((firm) => ({ value: String(firm.id), label: `all to-dos of ${firm.name}` })),
            ]}
          />
        </div>
        <Button type="submit">Make feed</Button>
      </Form>
    </Card>
  );
}
