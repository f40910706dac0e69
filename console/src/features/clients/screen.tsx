import { useQuery } from "@tanstack/react-query";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { clients, sites } from "../../api/queries/sites";
import type { Client, SiteKind } from "../../api/types";
import { points } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { Course } from "../../ui/signs";
import { Loaded } from "../../ui/state";

export function ClientsScreen() {
  const found = useQuery(clients.all());
  const may = useMay();
  const [view, setView] = useSearchParams();
  return (
    <>
      <Title of={["Clients"]} />
      <Heading title="Clients">
        {may("add_site") && (
          <Button main onClick={() => setView({ add: "site" })}>
            Add site
          </Button>
        )}
      </Heading>
      <Loaded query={found}>
        {(rows) => (
          <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-2">
            {rows.map((client) => (
              <Card key={client.id} title={client.name}>
                <ul>
                  {(client.sites ?? []).map((site) => (
                    <li
                      key={site.id}
                      className="border-line flex items-center justify-between gap-3 border-b py-1.5 last:border-b-0"
                    >
                      <span className="min-w-0">
                        <Link to={`/sites/${site.id}`}>{site.host}</Link>
                        {site.kind === "competitor" && <span className="text-ink-3 text-sm"> competitor</span>}
                      </span>
                      <span className="flex items-center gap-2 whitespace-nowrap">
                        <Course health={site.health} brick={3} height={9} /> {points(site.health)}
                      </span>
                    </li>
                  ))}
                  {(client.sites ?? []).length === 0 && <li className="text-ink-3">No site yet.</li>}
                </ul>
              </Card>
            ))}
            {rows.length === 0 && (
              <p className="text-ink-3">No clients yet. Add site; its client is made along with it.</p>
            )}
          </div>
        )}
      </Loaded>
      <Dialog
        open={view.get("add") === "site" && may("add_site")}
        onOpenChange={(open) => setView(open ? { add: "site" } : {})}
        title="Add site"
        description="An address is enough. Pace, limits and thresholds can be changed later under Plan."
      >
        {found.data && <AddSite all={found.data} />}
      </Dialog>
    </>
  );
}

const KINDS = [
  { value: "own", label: "the client's own site" },
  { value: "competitor", label: "a competitor" },
] as const satisfies { value: SiteKind; label: string }[];
const NEW = "new";

function AddSite({ all }: { all: Client[] }) {
  const navigate = useNavigate();
  const form = useForm<{ client: string; name: string; address: string; kind: SiteKind }>({
    defaultValues: { client: all[0] ? String(all[0].id) : NEW, name: "", address: "", kind: "own" },
  });
  const client = useWatch({ control: form.control, name: "client" });
  const addClient = useChange(clients.add());
  const addSite = useChange(sites.add());
  const send = (client_id: number, address: string, kind: SiteKind) =>
    addSite.mutate({ client_id, address, kind }, { onSuccess: (site) => void navigate(`/sites/${site.id}`) });
  return (
    <Form
      form={form}
      error={addClient.error ?? addSite.error}
      onSend={({ client, name, address, kind }) => {
        if (client !== NEW) return send(Number(client), address, kind);
        addClient.mutate(
          { name },
          {
            onSuccess: (made) => {
              // When the address is refused, the next try must not make the client again.
              form.setValue("client", String(made.id));
              send(made.id, address, kind);
            },
          },
        );
      }}
    >
      <Field
        name="client"
        label="Client"
        kind="choice"
        choices={[...all.map((c) => ({ value: String(c.id), label: c.name })), { value: NEW, label: "New client…" }]}
      />
      {client === NEW && <Field name="name" label="Name of the new client" required />}
      <Field name="address" label="Address" required hint="Where the crawl starts, e.g. https://shop.example/" />
      <Field name="kind" label="Kind" kind="choice" choices={KINDS} />
      <Button main type="submit" disabled={addSite.isPending || addClient.isPending}>
        Add it
      </Button>
    </Form>
  );
}
