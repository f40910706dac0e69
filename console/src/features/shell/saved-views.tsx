/** Filters of a screen under a name: kept, found again, shared with colleagues. */
import { useQuery } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { Fragment, useState } from "react";
import { useForm } from "react-hook-form";
import { useLocation, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { views } from "../../api/queries/work";
import type { View, ViewPlace } from "../../api/types";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button } from "../../ui/parts";
import { useSay } from "../../ui/toast";

/** Whether two queries ask for the same, in whatever order. */
export function sameQuery(a: string, b: string): boolean {
  const sorted = (text: string) =>
    [...new URLSearchParams(text)]
      .map((pair) => pair.join("="))
      .sort()
      .join("&");
  return sorted(a) === sorted(b);
}

const itemClass =
  "data-[highlighted]:bg-accent-soft data-[highlighted]:text-accent flex cursor-default items-center justify-between gap-4 rounded-sm px-2 py-1 outline-none";

type Shipped = { name: string; query: string; group?: string };

/** `shipped` are views that are always there, each with the query of its address; those of a group stand together under its name. */
export function SavedViews({ place, shipped = [] }: { place: ViewPlace; shipped?: readonly Shipped[] }) {
  const may = useMay();
  const say = useSay();
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  const found = useQuery({ ...views.of(place), enabled: may("list_views") }).data ?? [];
  const remove = useChange(views.remove());
  const [saving, setSaving] = useState(false);
  if (!may("list_views")) return null;
  const current = found.find((view) => sameQuery(view.query, search));
  const builtIn = shipped.find((view) => sameQuery(view.query, search));
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button aria-label="Saved views">{current?.name ?? builtIn?.name ?? "Views"} ▾</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={3}
            className="bg-surface border-line-strong text-ink z-50 max-w-[92vw] min-w-52 rounded-md max-h-[70vh] overflow-y-auto border p-1 shadow-lg"
          >
            {found.map((view) => (
              <DropdownMenu.Item
                key={view.id}
                className={itemClass}
                onSelect={() => void navigate(`${pathname}${view.query && `?${view.query}`}`)}
              >
                <span className={view === current ? "font-semibold" : ""}>{view.name}</span>
                <span className="text-ink-3 text-sm">{whose(view)}</span>
              </DropdownMenu.Item>
            ))}
            {shipped.map((view, n) => (
              <Fragment key={view.query}>
                {view.group && view.group !== shipped[n - 1]?.group && (
                  <DropdownMenu.Label className="text-ink-3 px-2 pt-1.5 pb-0.5 text-sm">
                    {view.group}
                  </DropdownMenu.Label>
                )}
                <DropdownMenu.Item className={itemClass} onSelect={() => void navigate(`${pathname}?${view.query}`)}>
                  <span className={view === builtIn ? "font-semibold" : ""}>{view.name}</span>
                </DropdownMenu.Item>
              </Fragment>
            ))}
            {found.length + shipped.length === 0 && <p className="text-ink-3 px-2 py-1">No view is saved here yet.</p>}
            <DropdownMenu.Separator className="bg-line my-1 h-px" />
            <DropdownMenu.Item className={itemClass} onSelect={() => setSaving(true)}>
              Save these filters…
            </DropdownMenu.Item>
            {current?.own && (
              <DropdownMenu.Item
                className={itemClass}
                onSelect={() =>
                  remove.mutate(current.id, { onSuccess: () => say(`The view ${current.name} is removed.`) })
                }
              >
                Remove “{current.name}”
              </DropdownMenu.Item>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog
        open={saving}
        onOpenChange={setSaving}
        title="Save these filters"
        description="The view shows this screen as it is narrowed down and sorted now, with what is there by then."
      >
        {saving && <Save place={place} query={search.replace(/^\?/, "")} close={() => setSaving(false)} />}
      </Dialog>
    </>
  );
}

const whose = (view: View) => (view.own ? (view.shared ? "shared" : "") : view.author);

function Save({ place, query, close }: { place: ViewPlace; query: string; close: () => void }) {
  const say = useSay();
  const add = useChange(views.add());
  const form = useForm({ defaultValues: { name: "", shared: false } });
  return (
    <Form
      form={form}
      error={add.error}
      onSend={({ name, shared }) =>
        add.mutate(
          { place, name, query, shared },
          {
            onSuccess: () => {
              say(`The view ${name} is saved.`);
              close();
            },
          },
        )
      }
    >
      <Field name="name" label="Name" required longest={100} autoFocus />
      <Field name="shared" label="Share it with everybody at the agency" kind="tick" />
      <div className="flex gap-2">
        <Button main type="submit" disabled={add.isPending}>
          Save view
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
