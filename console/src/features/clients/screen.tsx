import { useQuery } from "@tanstack/react-query";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { clients, sites } from "../../api/queries/sites";
import type { Client, SiteKind } from "../../api/types";
import { useAddress } from "../../lib/address";
import { holds, points } from "../../lib/words";
import { SearchInput, Select } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, buttonClass, Card } from "../../ui/parts";
import { Course } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { SavedViews } from "../shell/saved-views";
import { ClientsHead, Tags } from "./nav";

export function ClientsScreen() {
  const [view, set] = useAddress();
  const archived = view.get("archived") === "yes";
  const found = useQuery(clients.all(archived));
  const may = useMay();
  const [text, tag, owner] = [view.get("text") ?? "", view.get("tag") ?? "", view.get("owner") ?? ""];
  const all = found.data ?? [];
  const tags = [...new Set(all.flatMap(tagsOf))].sort();
  const owners = [...new Map(all.flatMap((c) => (c.owner_id ? [[String(c.owner_id), c.owner]] : [])))];
  const shown = all.filter(
    (c) =>
      holds(text, c.name, ...c.sites.map((s) => s.host)) &&
      (!tag || tagsOf(c).includes(tag)) &&
      (!owner || String(c.owner_id ?? "") === owner),
  );
  return (
    <>
      <ClientsHead title="Clients">
        <SavedViews place="clients" />
        {may("add_site") && <Button onClick={() => set("add", "site")}>Add site</Button>}
        {may("set_up_client") && (
          <Link to="/clients/new" className={buttonClass(true)}>
            New client
          </Link>
        )}
      </ClientsHead>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <SearchInput label="Find a client or site" value={text} onChange={(value) => set("text", value)} />
        {tags.length > 0 && (
          <div className="w-36">
            <Select
              aria-label="Tag"
              value={tag}
              onChange={(value) => set("tag", value)}
              choices={[{ value: "", label: "every tag" }, ...tags.map((t) => ({ value: t, label: t }))]}
            />
          </div>
        )}
        {owners.length > 0 && (
          <div className="w-44">
            <Select
              aria-label="In charge"
              value={owner}
              onChange={(value) => set("owner", value)}
              choices={[
                { value: "", label: "in anyone’s charge" },
                ...owners.map(([value = "", label = ""]) => ({ value, label })),
              ]}
            />
          </div>
        )}
        <div className="w-36">
          <Select
            aria-label="Clients shown"
            value={archived ? "yes" : ""}
            onChange={(value) => set("archived", value)}
            choices={[
              { value: "", label: "in use" },
              { value: "yes", label: "archived" },
            ]}
          />
        </div>
      </div>
      <Loaded query={found}>
        {(rows) => (
          <div className="grid items-start gap-4 lg:grid-cols-2">
            {shown.map((client) => (
              <ClientCard key={client.id} client={client} />
            ))}
            {rows.length === 0 && (
              <p className="text-ink-3">
                {archived
                  ? "No client is archived."
                  : "No clients yet. Begin with New client: a name and a URL are enough."}
              </p>
            )}
            {rows.length > 0 && shown.length === 0 && <p className="text-ink-3">No client fits these filters.</p>}
          </div>
        )}
      </Loaded>
      <Dialog
        open={view.get("add") === "site" && may("add_site")}
        onOpenChange={(open) => set("add", open ? "site" : "")}
        title="Add site"
        description="An address is enough. Pace, limits and thresholds can be changed later under Plan."
      >
        {found.data && <AddSite all={found.data} wanted={view.get("client") ?? ""} />}
      </Dialog>
    </>
  );
}

const tagsOf = (client: Client) => [...client.tags, ...client.sites.flatMap((s) => s.tags)];

function ClientCard({ client }: { client: Client }) {
  return (
    <Card title={<Link to={`/clients/${client.id}`}>{client.name}</Link>} aside={client.owner}>
      {client.tags.length > 0 && (
        <p className="mb-1.5">
          <Tags tags={client.tags} />
        </p>
      )}
      <ul>
        {client.sites.map((site) => (
          <li
            key={site.id}
            className="border-line flex items-center justify-between gap-3 border-b py-1.5 last:border-b-0"
          >
            <span className="min-w-0">
              <Link to={`/sites/${site.id}`}>{site.host}</Link>
              {site.kind === "competitor" && <span className="text-ink-3 text-sm"> competitor</span>}{" "}
              <Tags tags={site.tags} />
            </span>
            <span className="flex items-center gap-2 whitespace-nowrap">
              <Course health={site.health} brick={3} height={9} /> {points(site.health)}
            </span>
          </li>
        ))}
        {client.sites.length === 0 && <li className="text-ink-3">No site yet.</li>}
      </ul>
    </Card>
  );
}

const KINDS = [
  { value: "own", label: "the client's own site" },
  { value: "competitor", label: "a competitor" },
] as const satisfies { value: SiteKind; label: string }[];
const NEW = "new";

function AddSite({ all, wanted }: { all: Client[]; wanted: string }) {
  const navigate = useNavigate();
  const first = all.find((c) => String(c.id) === wanted) ?? all[0];
  const form = useForm<{ client: string; name: string; address: string; kind: SiteKind }>({
    defaultValues: { client: first ? String(first.id) : NEW, name: "", address: "", kind: "own" },
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
