/** Templates of reports: those that ship, which can be copied, and those of the agency. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { flushSync } from "react-dom";
import { Link, useNavigate, useParams } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { reports } from "../../api/queries/reports";
import { sites as sitesApi } from "../../api/queries/sites";
import type { ReportSection, ReportTemplate } from "../../api/types";
import { useSettled } from "../../lib/settled";
import { plural } from "../../lib/words";
import { controlClass, Labelled, Select } from "../../ui/controls";
import { Button, buttonClass, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { Unsaved } from "../../ui/unsaved";
import { PAUSE_MS, previewClass } from "./preview";
import { Sections } from "./sections";

export function Templates() {
  const may = useMay();
  const found = useQuery(reports.templates());
  const titles = new Map((useQuery(reports.offer()).data?.sections ?? []).map((each) => [each.kind, each.title]));
  return (
    <Loaded query={found}>
      {(rows) => (
        <div className="grid gap-3.5 lg:grid-cols-2">
          {rows.map((each) => (
            <Card key={each.id} title={each.name} aside={each.ships ? "ships with Hodcarrier" : undefined}>
              {each.note && <p className="text-ink-2 mb-1.5">{each.note}</p>}
              <p className="text-ink-3 text-sm">
                {plural(each.sections.length, "section")}:{" "}
                {each.sections.map((s) => s.title || (titles.get(s.kind) ?? s.kind)).join(", ")}
              </p>
              {may("add_report_template") && (
                <p className="mt-2 flex gap-4">
                  {!each.ships && <Link to={`/reports/templates/${each.id}`}>Edit template</Link>}
                  <Link to={`/reports/templates/new?from=${each.id}`}>Copy template</Link>
                </p>
              )}
            </Card>
          ))}
          {may("add_report_template") && (
            <p>
              <Link to="/reports/templates/new" className={buttonClass()}>
                Add template
              </Link>
            </p>
          )}
        </div>
      )}
    </Loaded>
  );
}

export function TemplateScreen() {
  const { templateId = "new" } = useParams();
  const from = new URLSearchParams(location.search).get("from");
  const found = useQuery(reports.templates());
  return (
    <Loaded query={found} tall={10}>
      {(rows) => {
        const kept = rows.find((each) => each.id === templateId && !each.ships);
        if (templateId !== "new" && !kept)
          return (
            <p className="text-ink-3">
              There is no such template any more. <Link to="/reports?tab=templates">See all templates</Link>
            </p>
          );
        return <Editor key={kept?.version ?? 0} kept={kept} copied={rows.find((each) => each.id === from)} />;
      }}
    </Loaded>
  );
}

function Editor({ kept, copied }: { kept: ReportTemplate | undefined; copied: ReportTemplate | undefined }) {
  const go = useNavigate();
  const say = useSay();
  const begin = kept ?? copied;
  const [name, setName] = useState(kept?.name ?? (copied ? `${copied.name}, copy` : ""));
  const [note, setNote] = useState(begin?.note ?? "");
  const [sections, setSections] = useState(begin?.sections ?? []);
  const add = useChange(reports.addTemplate());
  const replace = useChange(reports.replaceTemplate(Number(kept?.id ?? 0), kept?.version ?? 1));
  const remove = useChange(reports.removeTemplate());
  const change = kept ? replace : add;
  const dirty =
    name !== (kept?.name ?? (copied ? `${copied.name}, copy` : "")) ||
    note !== (begin?.note ?? "") ||
    JSON.stringify(sections) !== JSON.stringify(begin?.sections ?? []);
  const error = change.error ?? remove.error;
  const [done, setDone] = useState(false);
  const leave = () => {
    // At once: the question for what is not saved must be gone before the screen is left.
    flushSync(() => setDone(true));
    void go("/reports?tab=templates");
  };
  return (
    <>
      <Title of={[kept?.name ?? "New template"]} />
      <Heading over={<Link to="/reports?tab=templates">Templates</Link>} title={kept?.name ?? "New template"}>
        <Button
          main
          disabled={change.isPending || !name.trim() || sections.length === 0}
          title={sections.length === 0 ? "Add a section first" : !name.trim() ? "Give it a name first" : undefined}
          onClick={() =>
            sendThen(change, { name: name.trim(), note, sections }, () => {
              say("The template is saved.");
              leave();
            })
          }
        >
          Save template
        </Button>
      </Heading>
      {error && <Trouble error={error} />}
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[minmax(300px,2fr)_3fr]">
        <div className="min-w-0 space-y-4">
          <Card>
            <div className="space-y-3">
              <Labelled label="Name">
                {(tied) => (
                  <input
                    {...tied}
                    className={controlClass}
                    maxLength={100}
                    value={name}
                    onChange={(event) => setName(event.target.value)}
                  />
                )}
              </Labelled>
              <Labelled label="What it is for">
                {(tied) => (
                  <input
                    {...tied}
                    className={controlClass}
                    maxLength={2000}
                    value={note}
                    onChange={(event) => setNote(event.target.value)}
                  />
                )}
              </Labelled>
            </div>
          </Card>
          <Card title="Sections" aside="Reports that were begun from it stay as they are">
            <Sections sections={sections} onChange={setSections} />
          </Card>
          {kept && (
            <p>
              <LinkButton onClick={() => sendThen(remove, Number(kept.id), leave)}>Remove this template</LinkButton>{" "}
              <span className="text-ink-3 text-sm">Schedules that use it say so when they are due.</span>
            </p>
          )}
        </div>
        <Trial sections={sections} />
      </div>
      <Unsaved dirty={dirty && !done} what="What you changed in this template would be lost." />
    </>
  );
}

/** What a report of last month would be with these sections, on a site that can be chosen. */
function Trial({ sections }: { sections: ReportSection[] }) {
  const sites = useQuery(sitesApi.all("own")).data ?? [];
  const [chosen, setChosen] = useState("");
  const site = sites.find((each) => String(each.id) === chosen) ?? sites[0];
  const settled = useSettled(sections, PAUSE_MS);
  const found = useQuery({
    ...reports.trial(site?.id ?? 0, settled),
    enabled: site !== undefined && settled.length > 0,
  });
  return (
    <div className="min-w-0 space-y-2.5 lg:sticky lg:top-4">
      <Labelled label="Preview: last month of">
        {(tied) => (
          <Select
            {...tied}
            value={String(site?.id ?? "")}
            onChange={setChosen}
            choices={sites.map((each) => ({ value: String(each.id), label: each.host }))}
          />
        )}
      </Labelled>
      {found.error && <Trouble error={found.error} />}
      {sections.length === 0 ? (
        <p className="text-ink-3">Add a section, and see here what it makes of a site.</p>
      ) : (
        found.data && <iframe title="Preview of the template" srcDoc={found.data} sandbox="" className={previewClass} />
      )}
    </div>
  );
}
