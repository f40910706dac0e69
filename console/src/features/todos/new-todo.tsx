import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { sites } from "../../api/queries/sites";
import { Labelled, Select } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Loaded } from "../../ui/state";
import { TodoForm } from "../site/make-todo";

/** A to-do by hand: about a site, but about none of its findings. */
export function NewTodo({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="New to-do"
      description="By hand, so audits do not change it. To-dos that audits confirm are created from findings."
    >
      {open && <BySite close={() => onOpenChange(false)} />}
    </Dialog>
  );
}

function BySite({ close }: { close: () => void }) {
  const found = useQuery(sites.all("own"));
  const [chosen, setChosen] = useState("");
  return (
    <Loaded query={found} tall={4}>
      {(rows) => {
        const site = rows.find((each) => String(each.id) === chosen) ?? rows[0];
        if (!site) return <p className="text-ink-3">A to-do belongs to a site. Add one under Clients first.</p>;
        return (
          <div className="space-y-3">
            <Labelled label="Site">
              {(tied) => (
                <Select
                  {...tied}
                  value={String(site.id)}
                  onChange={setChosen}
                  choices={rows.map((each) => ({ value: String(each.id), label: each.host, group: each.client_name }))}
                />
              )}
            </Labelled>
            <TodoForm site={site} title="" close={close} />
          </div>
        );
      }}
    </Loaded>
  );
}
