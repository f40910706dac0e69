import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { todos } from "../../api/queries/work";
import { day, moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton, ShownOnce } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

/** Share links: whom a to-do was shared with, and a form for another one. */
export function Share({ id }: { id: number }) {
  const found = useQuery(todos.links(id));
  const add = useChange(todos.share(id));
  const revoke = useChange(todos.unshare(id));
  const say = useSay();
  const form = useForm({ defaultValues: { name: "", asks: false } });
  return (
    <Card title="Share by a link" aside="for people without an account">
      {revoke.error && <Trouble error={revoke.error} />}
      <Loaded query={found} tall={1}>
        {(rows) => (
          <ul>
            {rows.map((link) => (
              <li key={link.id} className="border-line flex gap-3 border-b py-1.5 last:border-b-0">
                <span className="min-w-0 flex-1">
                  {link.name}
                  {link.asks_approval && ", asked to agree"}
                  <span className="text-ink-3 block text-sm">
                    {link.seen ? `opened ${link.seen}×, last ${moment(link.seen_at)}` : "not opened yet"},{" "}
                    {link.active ? `until ${day(link.expires_at)}` : "ended"}
                  </span>
                </span>
                {link.active && (
                  <LinkButton
                    aria-label={`End the link of ${link.name}`}
                    onClick={() =>
                      revoke.mutate(link.id, { onSuccess: () => say(`The link of ${link.name} answers no more.`) })
                    }
                  >
                    end
                  </LinkButton>
                )}
              </li>
            ))}
          </ul>
        )}
      </Loaded>
      {add.data?.url && (
        <ShownOnce code={add.data.url}>Send this address to {add.data.name} now, it is not shown again:</ShownOnce>
      )}
      <Form
        form={form}
        error={add.error}
        className="mt-2 space-y-2"
        onSend={({ name, asks }) => add.mutate({ name, asks_approval: asks }, { onSuccess: () => form.reset() })}
      >
        <Field name="name" label="For" hint="What is said by the link is signed so" required />
        <Field name="asks" label="Ask for agreement" kind="tick" />
        <Button type="submit" disabled={add.isPending}>
          Make link
        </Button>
      </Form>
    </Card>
  );
}
