/** The sections of a report or template: their order, what is chosen of each, and the words of the editor. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useMay } from "../../api/hooks";
import { sheets } from "../../api/queries/sheets";
import { reports } from "../../api/queries/reports";
import { benchmarks, catalogue } from "../../api/queries/work";
import type { ReportSection, SectionOffer } from "../../api/types";
import { Combo } from "../../ui/combo";
import { controlClass, Labelled, Select } from "../../ui/controls";
import { Button, Chip, LinkButton } from "../../ui/parts";

type Props = {
  sections: readonly ReportSection[];
  onChange: (sections: ReportSection[]) => void;
  /** The site of a report; a template is of none. */
  siteId?: number;
  /** Keys of sections with nothing to tell. */
  empty?: readonly string[];
  disabled?: boolean;
};

export const freshSection = (kind: ReportSection["kind"], taken: readonly ReportSection[]): ReportSection => {
  const keys = new Set(taken.map((each) => each.key));
  let key: string = kind;
  for (let n = 2; keys.has(key); n++) key = `${kind}-${n}`;
  return { kind, key, title: "", note: "", choices: {}, checks: [], measures: [], sheet: "", benchmark: null };
};

export function Sections({ sections, onChange, siteId, empty = [], disabled }: Props) {
  const offers = useQuery(reports.offer()).data?.sections ?? [];
  const [open, setOpen] = useState<string | null>(null);
  const replace = (at: number, section: ReportSection) => onChange(sections.map((s, n) => (n === at ? section : s)));
  const move = (at: number, by: number) => {
    const next = [...sections];
    const [taken] = next.splice(at, 1);
    if (taken) next.splice(at + by, 0, taken);
    onChange(next);
  };
  return (
    <div>
      <ol aria-label="Sections" className="space-y-1.5">
        {sections.map((section, at) => {
          const offer = offers.find((each) => each.kind === section.kind);
          const name = section.title || offer?.title || section.kind;
          return (
            <li key={section.key} className="border-line rounded-md border">
              <div className="flex items-center gap-1 px-2 py-1">
                <button
                  type="button"
                  aria-expanded={open === section.key}
                  className="min-w-0 flex-1 truncate py-0.5 text-left"
                  onClick={() => setOpen(open === section.key ? null : section.key)}
                >
                  <span className="text-ink-3 mr-1.5 text-sm" aria-hidden="true">
                    {open === section.key ? "▾" : "▸"}
                  </span>
                  {name}
                  {section.note && <span className="text-accent text-sm"> · note</span>}
                  {empty.includes(section.key) && (
                    <span className="text-ink-3 text-sm"> · nothing to tell, left out</span>
                  )}
                </button>
                {!disabled && (
                  <>
                    <Step label={`Move ${name} up`} sign="↑" off={at === 0} go={() => move(at, -1)} />
                    <Step
                      label={`Move ${name} down`}
                      sign="↓"
                      off={at === sections.length - 1}
                      go={() => move(at, 1)}
                    />
                    <Step
                      label={`Remove ${name}`}
                      sign="×"
                      off={false}
                      go={() => onChange(sections.filter((_, n) => n !== at))}
                    />
                  </>
                )}
              </div>
              {open === section.key && offer && (
                <Options
                  offer={offer}
                  section={section}
                  siteId={siteId}
                  disabled={disabled}
                  onChange={(changed) => replace(at, changed)}
                />
              )}
            </li>
          );
        })}
      </ol>
      {sections.length === 0 && <p className="text-ink-3 py-2">No sections yet. Add the first one.</p>}
      {!disabled && (
        <div className="mt-2 w-64 max-w-full">
          <Labelled label="Add section">
            {(tied) => (
              <Select
                {...tied}
                value=""
                placeholder="choose a kind"
                onChange={(kind) => {
                  const offer = offers.find((each) => each.kind === kind);
                  if (!offer) return;
                  const made = freshSection(offer.kind, sections);
                  onChange([...sections, made]);
                  setOpen(made.key);
                }}
                choices={offers.map((each) => ({ value: each.kind, label: each.title }))}
              />
            )}
          </Labelled>
        </div>
      )}
    </div>
  );
}

function Step({ label, sign, off, go }: { label: string; sign: string; off: boolean; go: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={off}
      onClick={go}
      className="text-ink-2 enabled:hover:bg-sunk disabled:text-ink-3 min-h-6 min-w-6 rounded-sm px-1"
    >
      {sign}
    </button>
  );
}

function Options({
  offer,
  section,
  siteId,
  disabled,
  onChange,
}: {
  offer: SectionOffer;
  section: ReportSection;
  siteId: number | undefined;
  disabled: boolean | undefined;
  onChange: (section: ReportSection) => void;
}) {
  const set = (change: Partial<ReportSection>) => onChange({ ...section, ...change });
  const choose = (name: string, text: string) => {
    const choices = { ...section.choices };
    if (text === "") delete choices[name];
    else choices[name] = Number(text);
    set({ choices });
  };
  return (
    <fieldset disabled={disabled} className="border-line space-y-2.5 border-t px-2.5 py-2.5">
      <p className="text-ink-3 text-sm">{offer.about}</p>
      <Labelled label="Title">
        {(tied) => (
          <input
            {...tied}
            className={controlClass}
            value={section.title}
            maxLength={100}
            placeholder={offer.title}
            onChange={(event) => set({ title: event.target.value })}
          />
        )}
      </Labelled>
      {offer.choices.length > 0 && (
        <div className="grid grid-cols-2 gap-2.5">
          {offer.choices.map((choice) => (
            <Labelled key={choice.name} label={choice.label} hint={`${choice.least} to ${choice.most}`}>
              {(tied) => (
                <input
                  {...tied}
                  type="number"
                  min={choice.least}
                  max={choice.most}
                  className={controlClass}
                  placeholder={String(choice.usual)}
                  value={section.choices[choice.name] ?? ""}
                  onChange={(event) => choose(choice.name, event.target.value)}
                />
              )}
            </Labelled>
          ))}
        </div>
      )}
      {offer.picks.includes("checks") && <Checks chosen={section.checks} onChange={(checks) => set({ checks })} />}
      {offer.picks.includes("measures") && (
        <Measures chosen={section.measures} onChange={(measures) => set({ measures })} />
      )}
      {offer.picks.includes("sheet") && <SheetPick chosen={section.sheet} onChange={(sheet) => set({ sheet })} />}
      {offer.picks.includes("benchmark") && siteId !== undefined && (
        <BenchmarkPick
          siteId={siteId}
          chosen={section.benchmark ?? null}
          onChange={(benchmark) => set({ benchmark })}
        />
      )}
      <Labelled label="Your words" hint="Markdown; above the figures">
        {(tied) => (
          <textarea
            {...tied}
            rows={4}
            className={controlClass}
            value={section.note}
            onChange={(event) => set({ note: event.target.value })}
          />
        )}
      </Labelled>
    </fieldset>
  );
}

/** Which checks are shown; none: those that are worth doing first. */
function Checks({ chosen, onChange }: { chosen: readonly string[]; onChange: (checks: string[]) => void }) {
  const entries = useQuery(catalogue.all()).data ?? [];
  return (
    <Picked
      label="Checks"
      hint="None chosen: those that are worth doing first"
      names={new Map(entries.map((each) => [each.id, each.summary]))}
      chosen={chosen}
      onChange={onChange}
    />
  );
}

/** Which measures of the benchmark are shown; none: the usual ones. */
function Measures({ chosen, onChange }: { chosen: readonly string[]; onChange: (measures: string[]) => void }) {
  const measures = useQuery(reports.offer()).data?.measures ?? {};
  return (
    <Picked
      label="Measures"
      hint="None chosen: the usual ones"
      names={new Map(Object.entries(measures))}
      chosen={chosen}
      onChange={onChange}
    />
  );
}

type PickedProps = {
  label: string;
  hint: string;
  /** What can be chosen, by id. */
  names: ReadonlyMap<string, string>;
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
};

/** Things that are found by their names, and shown as what can be left out again. */
function Picked({ label, hint, names, chosen, onChange }: PickedProps) {
  const add = (name: string) => {
    const found = [...names].find(([id, each]) => each === name && !chosen.includes(id));
    if (found) onChange([...chosen, found[0]]);
  };
  return (
    <div>
      <Labelled label={label} hint={hint}>
        {(tied) => (
          <Combo
            key={chosen.length}
            {...tied}
            value=""
            onChange={add}
            choices={[...names].filter(([id]) => !chosen.includes(id)).map(([, name]) => name)}
          />
        )}
      </Labelled>
      {chosen.length > 0 && (
        <p className="mt-1.5 flex flex-wrap gap-1.5">
          {chosen.map((id) => (
            <Chip
              key={id}
              on
              aria-label={`Leave out ${names.get(id) ?? id}`}
              onClick={() => onChange(chosen.filter((each) => each !== id))}
            >
              {names.get(id) ?? id} ×
            </Chip>
          ))}
        </p>
      )}
    </div>
  );
}

function SheetPick({ chosen, onChange }: { chosen: string; onChange: (sheet: string) => void }) {
  const may = useMay();
  const templates = useQuery({ ...sheets.templates(), enabled: may("list_sheet_templates") }).data ?? [];
  return (
    <Labelled label="Review sheet">
      {(tied) => (
        <Select
          {...tied}
          value={chosen || LATEST}
          onChange={(value) => onChange(value === LATEST ? "" : value)}
          choices={[
            { value: LATEST, label: "the latest of any" },
            ...templates.map((each) => ({ value: each.id, label: each.name })),
          ]}
        />
      )}
    </Labelled>
  );
}

const LATEST = "latest";

function BenchmarkPick({
  siteId,
  chosen,
  onChange,
}: {
  siteId: number;
  chosen: number | null;
  onChange: (benchmark: number | null) => void;
}) {
  const found = (useQuery(benchmarks.all()).data ?? []).filter((each) => each.site_id === siteId);
  if (found.length < 2) return null;
  return (
    <Labelled label="Benchmark">
      {(tied) => (
        <Select
          {...tied}
          value={chosen === null ? LATEST : String(chosen)}
          onChange={(value) => onChange(value === LATEST ? null : Number(value))}
          choices={[
            { value: LATEST, label: "the first of the site" },
            ...found.map((each) => ({ value: String(each.id), label: each.name })),
          ]}
        />
      )}
    </Labelled>
  );
}

/** A button that takes back what was not saved, beside the one that saves. */
export function SaveBar({
  dirty,
  busy,
  onSave,
  onDrop,
  children = "Save",
}: {
  dirty: boolean;
  busy: boolean;
  onSave: () => void;
  onDrop: () => void;
  children?: string;
}) {
  return (
    <span className="flex items-center gap-3">
      {dirty && <LinkButton onClick={onDrop}>Discard changes</LinkButton>}
      <Button main={dirty} disabled={!dirty || busy} onClick={onSave}>
        {children}
      </Button>
    </span>
  );
}
