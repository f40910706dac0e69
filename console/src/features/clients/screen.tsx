import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { Client, Site } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { points } from "../../lib/words";
import { Button, Card, Field, Heading, Loaded, Trouble } from "../../ui/parts";
import { Dialog } from "../../ui/dialog";
import { Course } from "../../ui/signs";

export function ClientsScreen() {
  const clients = useRead<Client[]>("/clients");
  const [view, setView] = useSearchParams();
  return (
    <>
      <Heading title="Clients">
        <Button main onClick={() => setView({ add: "site" })}>
          Add a site
        </Button>
      </Heading>
      <Loaded query={clients}>
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
              <p className="text-ink-3">No clients yet. Add a site; its client is made along with it.</p>
            )}
          </div>
        )}
      </Loaded>
      <Dialog
        open={view.get("add") === "site"}
        onOpenChange={(open) => setView(open ? { add: "site" } : {})}
        title="Add a site"
        description="An address is enough. Pace, limits and thresholds can be changed later under Plan."
      >
        <AddSite clients={clients.data ?? []} />
      </Dialog>
    </>
  );
}

function AddSite({ clients }: { clients: Client[] }) {
  const navigate = useNavigate();
  const [values, setValues] = useState({
    client: clients[0] ? String(clients[0].id) : "new",
    name: "",
    address: "",
    kind: "own",
  });
  const addClient = useChange<{ name: string }, Client>("POST", "/clients");
  const addSite = useChange<Record<string, unknown>, Site>("POST", "/sites");
  const send = async () => {
    const client =
      values.client === "new" ? await addClient.mutateAsync({ name: values.name }) : { id: Number(values.client) };
    const site = await addSite.mutateAsync({ client_id: client.id, address: values.address, kind: values.kind });
    navigate(`/sites/${site.id}`);
  };
  const error = addClient.error ?? addSite.error;
  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        void send().catch(() => undefined);
      }}
    >
      <Field label="Client">
        {(c) => (
          <select
            className={c}
            value={values.client}
            onChange={(e) => setValues({ ...values, client: e.target.value })}
          >
            {clients.map((client) => (
              <option key={client.id} value={client.id}>
                {client.name}
              </option>
            ))}
            <option value="new">a new client…</option>
          </select>
        )}
      </Field>
      {values.client === "new" && (
        <Field label="Name of the new client">
          {(c) => (
            <input
              className={c}
              required
              value={values.name}
              onChange={(e) => setValues({ ...values, name: e.target.value })}
            />
          )}
        </Field>
      )}
      <Field label="Address" hint="Where the crawl starts, such as https://shop.example/">
        {(c) => (
          <input
            className={c}
            required
            value={values.address}
            onChange={(e) => setValues({ ...values, address: e.target.value })}
          />
        )}
      </Field>
      <Field label="Kind">
        {(c) => (
          <select className={c} value={values.kind} onChange={(e) => setValues({ ...values, kind: e.target.value })}>
            <option value="own">the client's own site</option>
            <option value="competitor">a competitor</option>
          </select>
        )}
      </Field>
      {error && <Trouble error={error} />}
      <Button main type="submit" disabled={addSite.isPending}>
        Add it
      </Button>
    </form>
  );
}
