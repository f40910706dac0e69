import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { clients, sites } from "../../api/queries/sites";
import type { Site } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, moment, plural, points } from "../../lib/words";
import { SearchInput, Select } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Course } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";
import { ChangeSites } from "./change-sites";
import { SavedViews } from "../shell/saved-views";
import { ClientsHead, Tags } from "./nav";

export function SitesScreen() {
  const [view, set] = useAddress();
  const may = useMay();
  const [text, tag, owner, kind] = ["text", "tag", "owner", "kind"].map((name) => view.get(name) ?? "");
  const found = useQuery(
    sites.all(kind === "competitor" ? "competitor" : "own", {
      ...(text ? { text } : {}),
      ...(tag ? { tag } : {}),
      ...(owner ? { owner: Number(owner) } : {}),
    }),
  );
  const firms = useQuery(clients.all()).data ?? [];
  const tags = [...new Set(firms.flatMap((c) => [...c.tags, ...c.sites.flatMap((s) => s.tags)]))].sort();
  const owners = [...new Map(firms.flatMap((c) => (c.owner_id ? [[String(c.owner_id), c.owner] as const] : [])))];
  return (
    <>
      <ClientsHead title="Sites">
        <SavedViews place="sites" />
      </ClientsHead>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <SearchInput label="Find a site or client" value={text ?? ""} onChange={(value) => set("text", value)} />
        <div className="w-36">
          <Select
            aria-label="Tag"
            value={tag ?? ""}
            onChange={(value) => set("tag", value)}
            choices={[{ value: "", label: "every tag" }, ...tags.map((t) => ({ value: t, label: t }))]}
          />
        </div>
        <div className="w-44">
          <Select
            aria-label="In charge"
            value={owner ?? ""}
            onChange={(value) => set("owner", value)}
            choices={[
              { value: "", label: "in anyone’s charge" },
              ...owners.map(([value, label]) => ({ value, label })),
            ]}
          />
        </div>
        <div className="w-36">
          <Select
            aria-label="Kind"
            value={kind ?? ""}
            onChange={(value) => set("kind", value)}
            choices={[
              { value: "", label: "own sites" },
              { value: "competitor", label: "competitors" },
            ]}
          />
        </div>
      </div>
      <Card>
        <Loaded query={found} tall={10}>
          {(rows) => (
            <Table
              rows={rows}
              id={(s) => s.id}
              name="sites"
              caption="Sites"
              note={plural(rows.length, "site")}
              empty={
                text || tag || owner
                  ? "No site fits these filters."
                  : "No sites yet. Begin with New client under Clients."
              }
              sorted={view.get("sort") ?? ""}
              onSort={(sort) => set("sort", sort)}
              act={
                may("change_sites")
                  ? (chosen: Site[], clear: () => void) => <ChangeSites sites={chosen} done={clear} />
                  : undefined
              }
              columns={[
                {
                  head: "Site",
                  sort: (s) => s.host,
                  cell: (s) => (
                    <>
                      <Link to={`/sites/${s.id}`} className="inline-block min-h-[24px] font-semibold">
                        {s.host}
                      </Link>
                      <div className="text-ink-3 text-sm">
                        <Link to={`/clients/${s.client_id}`} className="inline-block min-h-[24px]">
                          {s.client_name}
                        </Link>
                      </div>
                    </>
                  ),
                },
                { head: "Tags", cell: (s) => <Tags tags={[...(s.client_tags ?? []), ...(s.tags ?? [])]} /> },
                {
                  head: "Health",
                  sort: (s) => s.health,
                  cell: (s) => (
                    <span className="flex items-center gap-2 whitespace-nowrap">
                      <Course health={s.health} brick={3} height={9} /> {points(s.health)}
                    </span>
                  ),
                },
                {
                  head: "Last run",
                  sort: (s) => s.last_run?.requested_at,
                  cell: (s) => (s.last_run ? `${moment(s.last_run.requested_at)}, ${s.last_run.state}` : "none yet"),
                },
                {
                  head: "Schedule",
                  sort: (s) => s.schedule?.words,
                  cell: (s) => s.schedule?.words ?? <span className="text-ink-3">by hand only</span>,
                },
                {
                  head: "Next run",
                  sort: (s) => s.schedule?.next_due_at,
                  cell: (s) => (s.schedule?.paused_at ? "paused" : moment(s.schedule?.next_due_at)),
                },
                { head: "To-dos", number: true, sort: (s) => s.open_todos, cell: (s) => count(s.open_todos) },
              ]}
            />
          )}
        </Loaded>
      </Card>
    </>
  );
}
