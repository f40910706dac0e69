/** A table that waits: how it is understood, what can be corrected, and the first rows as they will be taken in. */
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { sendThen, useChange } from "../../api/change";
import { figures } from "../../api/queries/figures";
import type { FigureFile, FigureKind, FigureLayout, FigurePreview, Site } from "../../api/types";
import { count, day, plural } from "../../lib/words";
import { controlClass, Labelled, Select } from "../../ui/controls";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { type Column, Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { DAY_ORDERS, KINDS, MARKS } from "./kinds";
import { outcomeWords } from "./outcome";

const NO_COLUMN = "0";
const FIXED = "fixed";

export function Waiting({ site, id }: { site: Site; id: number }) {
  const table = useQuery(figures.table(site.id, id));
  return (
    <Loaded query={table} tall={8}>
      {(found) =>
        found.preview ? (
          <Mapping site={site} table={found} preview={found.preview} />
        ) : (
          <BeingRead site={site} table={found} />
        )
      }
    </Loaded>
  );
}

/** Somebody has just added it, or its reading broke off. */
function BeingRead({ site, table }: { site: Site; table: FigureFile }) {
  const remove = useChange(figures.remove(site.id));
  return (
    <Card title={table.name}>
      <p>
        Still being read. <LinkButton onClick={() => remove.mutate(table.id)}>Don’t import</LinkButton>
      </p>
      {remove.error && <Trouble error={remove.error} />}
    </Card>
  );
}

function Mapping({ site, table, preview }: { site: Site; table: FigureFile; preview: FigurePreview }) {
  const layOut = useChange(figures.layOut(site.id, table.id));
  const take = useChange(figures.import(site.id, table.id));
  const remove = useChange(figures.remove(site.id));
  const say = useSay();
  const [draft, setDraft] = useState<FigureLayout | null>(null);
  const layout = draft ?? preview.layout;
  const waiting = useRef(0);
  const line = useRef(Promise.resolve());
  const heard = useRef(preview.layout);
  // Several things may be corrected before the table is read again: each builds on the one before, and they are sent one after the other. How days and
  // decimals are written the service may have found out meanwhile: a correction of something else must not take that back.
  const send = (shown: FigureLayout | null, body: () => Parameters<typeof layOut.mutateAsync>[0]) => {
    if (waiting.current === 0) heard.current = preview.layout;
    waiting.current += 1;
    setDraft(shown);
    const done = (answer?: FigureFile) => {
      waiting.current -= 1;
      if (answer?.preview) heard.current = answer.preview.layout;
      if (waiting.current === 0) setDraft(null);
    };
    line.current = line.current.then(() => layOut.mutateAsync(body())).then(done, () => done());
  };
  const change = (part: Partial<FigureLayout>) =>
    send({ ...layout, ...part }, () => {
      const { days, decimals } = heard.current;
      return { layout: { ...layout, days, decimals, ...part } };
    });
  const missing = (preview.fields ?? []).filter((field) => (preview.missing ?? []).includes(field.name));
  const bad = preview.unreadable ?? 0;
  const leaveOut = bad > 0;
  const busy = layOut.isPending || take.isPending;
  return (
    <Card
      title={table.name}
      aside={
        <>
          {preview.known_layout && "understood as the last table of this form · "}
          {preview.encoding &&
            `${preview.encoding}, cells apart by ${SEPARATORS[preview.separator ?? ""] ?? preview.separator}`}
        </>
      }
    >
      <div className="mb-3 flex flex-wrap gap-3">
        <div className="w-52">
          <Labelled label="Figures">
            {(tied) => (
              <Select
                {...tied}
                value={layout.kind}
                onChange={(kind) => send(null, () => ({ kind: kind as FigureKind }))}
                choices={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
              />
            )}
          </Labelled>
        </div>
        {(preview.sheets ?? []).length > 1 && (
          <div className="w-44">
            <Labelled label="Sheet">
              {(tied) => (
                <Select
                  {...tied}
                  value={layout.sheet ?? ""}
                  onChange={(sheet) => send(null, () => ({ sheet }))}
                  choices={(preview.sheets ?? []).map((name) => ({ value: name, label: name }))}
                />
              )}
            </Labelled>
          </div>
        )}
        <div className="w-44">
          <Labelled label="Days are written">
            {(tied) => (
              <Select
                {...tied}
                value={layout.days ?? "ymd"}
                onChange={(days) => change({ days: days as FigureLayout["days"] })}
                choices={Object.entries(DAY_ORDERS).map(([value, label]) => ({ value, label }))}
              />
            )}
          </Labelled>
        </div>
        <div className="w-32">
          <Labelled label="Decimals">
            {(tied) => (
              <Select
                {...tied}
                value={layout.decimals ?? "point"}
                onChange={(decimals) => change({ decimals: decimals as FigureLayout["decimals"] })}
                choices={Object.entries(MARKS).map(([value, label]) => ({ value, label }))}
              />
            )}
          </Labelled>
        </div>
        <Typed
          key={`row ${layout.head_row}`}
          label="Headings in row"
          className="w-32"
          value={String(layout.head_row ?? 1)}
          isFine={(typed) => /^[1-9]\d{0,2}$/.test(typed)}
          onChange={(row) => change({ head_row: Number(row) })}
        />
        <Typed
          key={`source ${table.source}`}
          label="Source"
          className="w-64"
          value={table.source}
          isFine={(typed) => typed.length <= 200}
          onChange={(source) => send(null, () => ({ source }))}
        />
      </div>
      <Fields preview={preview} layout={layout} change={change} />
      {(preview.day_orders ?? []).length > 1 && (
        <p className="text-ink-2 mb-2">
          These days could be read in more than one way; they are taken as {DAY_ORDERS[layout.days ?? "ymd"]}. Look at
          the rows below.
        </p>
      )}
      <Rows preview={preview} />
      <p className="mt-2">{summary(preview)}</p>
      {(preview.unknown ?? []).length > 0 && (
        <p className="text-ink-3 text-sm wrap-anywhere">
          Not met by the latest run, such as {(preview.unknown ?? []).slice(0, 3).join(", ")}
        </p>
      )}
      {(preview.problems ?? []).length > 0 && (
        <ul className="bg-clay-soft mt-2 rounded-md px-3 py-1.5">
          {(preview.problems ?? []).slice(0, 6).map((problem) => (
            <li key={problem.row}>
              Row {count(problem.row)}: {problem.text}.
            </li>
          ))}
          {bad > 6 && <li>… and {count(bad - 6)} more.</li>}
        </ul>
      )}
      {missing.length > 0 && (
        <p role="status" className="text-bad mt-2">
          Nothing says what is the {missing.map((field) => field.head).join(", ")}. Choose the column, or a value for
          all rows.
        </p>
      )}
      {(layOut.error ?? take.error ?? remove.error) && (
        <Trouble error={(layOut.error ?? take.error ?? remove.error)!} />
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          main
          disabled={busy || missing.length > 0 || !preview.readable}
          onClick={() =>
            sendThen(take, leaveOut, (done) =>
              say(`Imported ${table.name}: ${done.outcome ? outcomeWords(done.outcome) : ""}.`),
            )
          }
        >
          {take.isPending
            ? "Importing…"
            : leaveOut
              ? `Import ${plural(preview.readable ?? 0, "row")}, leave out ${count(bad)}`
              : `Import ${plural(preview.readable ?? 0, "row")}`}
        </Button>
        <LinkButton disabled={busy} onClick={() => remove.mutate(table.id)}>
          Don’t import
        </LinkButton>
        {layOut.isPending && <span className="text-ink-3 text-sm">Reading again…</span>}
      </div>
    </Card>
  );
}

const SEPARATORS: Record<string, string> = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };

function summary(preview: FigurePreview): string {
  const parts = [`${plural(preview.readable ?? 0, "row")} can be read`];
  if (preview.first) parts.push(`${day(preview.first)} to ${day(preview.last)}`);
  if (preview.pages)
    parts.push(`${plural(preview.pages, "page")}, ${count(preview.pages_unknown)} of them not met by the latest run`);
  if (preview.queries)
    parts.push(
      `${count(preview.queries)} ${preview.queries === 1 ? "query" : "queries"}, ${count(preview.queries_unknown)} of them new`,
    );
  return `${parts.join(" · ")}.`;
}

/** Something typed that counts once its field is left. */
function Typed({
  label,
  className,
  value,
  isFine,
  onChange,
}: {
  label: string;
  className: string;
  value: string;
  isFine: (typed: string) => boolean;
  onChange: (typed: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const leave = () => {
    const meant = typed.trim();
    if (meant === value) return;
    if (isFine(meant)) onChange(meant);
    else setTyped(value);
  };
  return (
    <div className={className}>
      <Labelled label={label}>
        {(tied) => (
          <input
            {...tied}
            className={controlClass}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={leave}
          />
        )}
      </Labelled>
    </div>
  );
}

/** The column of each field, or what holds for every row. */
function Fields({
  preview,
  layout,
  change,
}: {
  preview: FigurePreview;
  layout: FigureLayout;
  change: (part: Partial<FigureLayout>) => void;
}) {
  const columns = layout.columns ?? {};
  const fixed = layout.fixed ?? {};
  const [writing, setWriting] = useState<readonly string[]>([]);
  const choices = [
    { value: NO_COLUMN, label: "not in the table" },
    ...(preview.heads ?? []).map((head, at) => ({ value: String(at + 1), label: head || `column ${at + 1}` })),
    { value: FIXED, label: "the same in all rows…" },
  ];
  const choose = (name: string, value: string) => {
    const rest = Object.fromEntries(Object.entries(columns).filter(([each]) => each !== name));
    const kept = Object.fromEntries(Object.entries(fixed).filter(([each]) => each !== name));
    setWriting(value === FIXED ? [...writing, name] : writing.filter((each) => each !== name));
    if (value === FIXED) change({ columns: rest, fixed: kept });
    else change({ columns: value === NO_COLUMN ? rest : { ...rest, [name]: Number(value) }, fixed: kept });
  };
  return (
    <div className="mb-3 grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-3">
      {(preview.fields ?? []).map((field) => {
        const isFixed = field.name in fixed || writing.includes(field.name);
        return (
          <div key={field.name}>
            <Labelled label={`${field.head}${field.needed ? " (needed)" : ""}`}>
              {(tied) => (
                <Select
                  {...tied}
                  value={isFixed ? FIXED : String(columns[field.name] ?? NO_COLUMN)}
                  onChange={(value) => choose(field.name, value)}
                  choices={choices}
                />
              )}
            </Labelled>
            {isFixed && (
              <input
                aria-label={`${field.head} in all rows`}
                className={`${controlClass} mt-1`}
                defaultValue={fixed[field.name] ?? ""}
                placeholder={field.name.endsWith("day") ? "yyyy-mm-dd" : ""}
                onBlur={(event) => {
                  const value = event.target.value.trim();
                  if (value !== (fixed[field.name] ?? "")) change({ fixed: { ...fixed, [field.name]: value } });
                }}
              />
            )}
          </div>
        );
      })}
    </div>
  );
}

function Rows({ preview }: { preview: FigurePreview }) {
  const { layout } = preview;
  const shown = (preview.fields ?? []).filter(
    (field) => field.name in (layout.columns ?? {}) || field.name in (layout.fixed ?? {}),
  );
  const rows = (preview.rows ?? []).map((cells, at) => ({ at, cells }));
  return (
    <Table
      rows={rows}
      id={(row) => row.at}
      caption="The first rows as they are understood"
      empty="No row can be read as it is understood now."
      columns={shown.map((field): Column<(typeof rows)[number]> => ({
        head: field.head,
        className: "wrap-anywhere",
        cell: (row) => row.cells[field.name] || <span className="text-ink-3">–</span>,
      }))}
    />
  );
}
