/** Review sheets of a site, and the templates that they are begun from. */
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sheets } from "../../api/queries/sheets";
import type { SheetTemplate } from "../../api/types";
import { count, day } from "../../lib/words";
import { Labelled, Select } from "../../ui/controls";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { useSite } from "../site/context";

export function SheetsScreen() {
  const { site } = useSite();
  const may = useMay();
  const found = useQuery(sheets.ofSite(site.id));
  const templates = useQuery(sheets.templates());
  return (
    <div className="grid gap-4">
      <Card
        title="Review sheets"
        aside={may("start_sheet") && <Begin siteId={site.id} templates={templates.data ?? []} />}
      >
        <Loaded query={found} tall={4}>
          {(rows) => (
            <Table
              rows={rows}
              id={(row) => row.id}
              caption="Review sheets of the site"
              empty="No sheets yet. Begin one: what the latest audit and figures know is filled in already, the rest is for your eyes."
              columns={[
                { head: "Day", sort: (row) => row.day, cell: (row) => day(row.day) },
                {
                  head: "Sheet",
                  cell: (row) => (
                    <Link to={`/sites/${site.id}/review/${row.id}`} className="font-semibold">
                      {row.name}
                    </Link>
                  ),
                },
                { head: "How far", cell: (row) => row.sentence },
                { head: "By", cell: (row) => row.author },
              ]}
            />
          )}
        </Loaded>
      </Card>
      <Loaded query={templates} tall={4}>
        {(rows) => <Templates rows={rows} />}
      </Loaded>
    </div>
  );
}

function Begin({ siteId, templates }: { siteId: number; templates: readonly SheetTemplate[] }) {
  const go = useNavigate();
  const start = useChange(sheets.start(siteId));
  const [chosen, setChosen] = useState("");
  const template = chosen || templates[0]?.id || "";
  return (
    <span className="flex flex-wrap items-end gap-2">
      <span className="block w-60 max-w-full">
        <Labelled label="Template">
          {(tied) => (
            <Select
              {...tied}
              value={template}
              onChange={setChosen}
              choices={templates.map((each) => ({ value: each.id, label: each.name }))}
            />
          )}
        </Labelled>
      </span>
      <Button
        main
        disabled={start.isPending || !template}
        onClick={() => sendThen(start, template, (made) => void go(`/sites/${siteId}/review/${made.id}`))}
      >
        Begin a sheet
      </Button>
      {start.error && <Trouble error={start.error} />}
    </span>
  );
}

function Templates({ rows }: { rows: readonly SheetTemplate[] }) {
  const may = useMay();
  const say = useSay();
  const add = useChange(sheets.addTemplate());
  const remove = useChange(sheets.removeTemplate());
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    const name = file.name.replace(/\.[^.]*$/, "");
    sendThen(add, { name, note: "", sections: [], table: await file.text() }, (made) => say(`${made.name} is added.`));
  };
  const error = add.error ?? remove.error;
  return (
    <Card
      title="Templates"
      aside={
        may("add_sheet_template") && (
          <>
            <input
              ref={input}
              type="file"
              accept=".csv,.txt,.tsv"
              aria-label="Table of a template"
              className="sr-only"
              tabIndex={-1}
              onChange={(event) => {
                void take(event.target.files?.[0]);
                event.target.value = "";
              }}
            />
            <Button onClick={() => input.current?.click()}>Add one from a table…</Button>
          </>
        )
      }
    >
      {error && <Trouble error={error} />}
      <Table
        rows={[...rows]}
        id={(row) => row.id}
        caption="Templates of review sheets"
        empty=""
        columns={[
          {
            head: "Template",
            cell: (row) => (
              <details>
                <summary className="font-semibold">{row.name}</summary>
                {row.sections.map((section) => (
                  <div key={section.title} className="mt-1.5">
                    <b className="font-semibold">{section.title}</b>
                    <ul className="list-disc pl-5">
                      {section.items.map((item) => (
                        <li key={item.key}>{item.text}</li>
                      ))}
                    </ul>
                  </div>
                ))}
              </details>
            ),
          },
          { head: "Items", number: true, cell: (row) => count(row.items) },
          { head: "What for", cell: (row) => row.note },
          {
            head: "What to do",
            quiet: true,
            cell: (row) => (
              <span className="flex flex-wrap gap-x-3">
                <a href={`/api/v1/sheet-templates/${row.id}/export?form=csv`} download>
                  table
                </a>
                {!row.ships && may("remove_sheet_template") && (
                  <LinkButton aria-label={`Remove the template ${row.name}`} onClick={() => remove.mutate(row.id)}>
                    remove
                  </LinkButton>
                )}
              </span>
            ),
          },
        ]}
      />
      <p className="text-ink-3 mt-2 text-sm">
        To make one of your own, save the table of another, change it, and add it. Sheets that were begun keep their
        items.
      </p>
    </Card>
  );
}
