import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { inventory, type Listed } from "../../api/queries/runs";
import type { InventoryKind, InventoryColumn, InventoryFigures, InventoryRow } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, plural } from "../../lib/words";
import { controlClass, Select } from "../../ui/controls";
import { buttonClass, Button, Card, Chip, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { SavedViews } from "../shell/saved-views";
import { useSite } from "./context";
import { narrowed } from "./filter-tree";
import { Cell, figure } from "./inventory-cells";
import { CheckAgain } from "./check-again";
import { ColumnChoice } from "./inventory-columns";
import { FilterDialog } from "./inventory-filter";
import { NoRun } from "./no-run";
import { SpreadBars } from "./spread";

const ROLES: readonly { value: InventoryKind; label: string }[] = [
  { value: "page", label: "pages" },
  { value: "file", label: "files" },
  { value: "link", label: "links" },
  { value: "external", label: "other sites" },
];
/** References stand page by page, addresses in the order of their URLs. */
const usualSort = (of: InventoryKind) => (of === "link" ? "" : "url");
const SPREAD_AT_FIRST: Record<InventoryKind, string> = {
  page: "status",
  file: "used_as",
  external: "status",
  link: "kind",
};

export function InventoryScreen() {
  const { site, run } = useSite();
  const [view] = useAddress();
  const of = ROLES.find((role) => role.value === view.get("of"))?.value ?? "page";
  const columns = useQuery(inventory.columns(of));
  if (!run) return <NoRun site={site} />;
  return (
    <Loaded query={columns} tall={12}>
      {(known) => <Inventory key={of} of={of} known={known} runId={run.id} />}
    </Loaded>
  );
}

function Inventory({ of, known, runId }: { of: InventoryKind; known: InventoryColumn[]; runId: string }) {
  const [view, set] = useAddress();
  const names = new Set(known.map((column) => column.name));
  const asked = (view.get("columns") ?? "").split(",").filter((name) => names.has(name));
  const usual = known
    .filter((column) => column.shown > 0)
    .sort((a, b) => a.shown - b.shown)
    .map((column) => column.name);
  const shown = asked.length > 0 ? asked : usual;
  const where = view.get("where") ?? "";
  const by = names.has(view.get("by") ?? "") ? (view.get("by") ?? "") : "";
  const listed: Listed = { of, where, columns: shown.join(","), sort: view.get("sort") ?? usualSort(of) };
  const figures = useQuery({
    ...inventory.figures(runId, { ...listed, by }),
    placeholderData: (before: InventoryFigures | undefined) => before,
  });
  const byName = new Map(known.map((column) => [column.name, column]));
  const spread = figures.data?.spreads.find((each) => each.column === by);
  const counted = byName.get(by);
  return (
    <Card
      title="Inventory"
      aside={
        <span className="flex flex-wrap items-center gap-1.5">
          {ROLES.map((role) => (
            <RoleChip key={role.value} role={role} on={role.value === of} />
          ))}
        </span>
      }
    >
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Views of={of} />
        <FilterDialog
          key={where}
          filter={figures.data?.filter}
          columns={known}
          onApply={(text) => set("where", text)}
        />
        <WhereLine key={`line ${where}`} where={where} onApply={(text) => set("where", text)} />
        <ColumnChoice
          columns={known}
          shown={shown}
          onChange={(next) => set("columns", next.join(",") === usual.join(",") ? "" : next.join(","))}
        />
        <Button aria-pressed={by !== ""} onClick={() => set("by", by ? "" : SPREAD_AT_FIRST[of])}>
          Spread
        </Button>
        <Exports runId={runId} listed={listed} />
      </div>
      {figures.error && (
        <div className="mb-3">
          <Trouble error={figures.error} />
        </div>
      )}
      <div className={by ? "grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_16rem]" : ""}>
        <Rows listed={listed} runId={runId} byName={byName} figures={figures.data} />
        {by && (
          <aside aria-label="How the list is spread" className="order-first lg:order-none">
            <div className="mb-1.5 w-full max-w-68">
              <Select
                id="by"
                aria-label="Count by"
                value={by}
                onChange={(name) => set("by", name)}
                choices={known.map((column) => ({ value: column.name, label: `by ${column.label}` }))}
              />
            </div>
            {spread && counted && (
              <SpreadBars spread={spread} column={counted} onChoose={(one) => set("where", narrowed(where, one))} />
            )}
          </aside>
        )}
      </div>
    </Card>
  );
}

function RoleChip({ role, on }: { role: { value: InventoryKind; label: string }; on: boolean }) {
  const [view, set] = useAddress();
  // Another kind of address has other columns: nothing of the view stays.
  const show = () => {
    for (const name of [...view.keys()]) if (name !== "run") view.delete(name);
    set("of", role.value === "page" ? "" : role.value);
  };
  return (
    <Chip on={on} onClick={show}>
      {role.label}
    </Chip>
  );
}

function Views({ of }: { of: InventoryKind }) {
  const [view] = useAddress();
  const shipped = useQuery(inventory.views()).data ?? [];
  const run = view.get("run");
  return (
    <SavedViews
      place="inventory"
      shipped={[...ROLES]
        .sort((a, b) => Number(b.value === of) - Number(a.value === of))
        .flatMap((role) =>
          shipped
            .filter((each) => each.of === role.value)
            .map((each) => ({
              name: each.name,
              group: role.label,
              query: new URLSearchParams({
                ...(run ? { run } : {}),
                ...(role.value === "page" ? {} : { of: role.value }),
                where: each.where,
                columns: each.columns.join(","),
                ...(each.sort === usualSort(role.value) ? {} : { sort: each.sort }),
              }).toString(),
            })),
        )}
    />
  );
}

/** The filter as it is written, to be changed in place. */
function WhereLine({ where, onApply }: { where: string; onApply: (where: string) => void }) {
  const [text, setText] = useState(where);
  return (
    <form
      className="flex min-w-56 flex-1 items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        onApply(text.trim());
      }}
    >
      <input
        aria-label="Filter, written out"
        placeholder='status = 404 and url contains "/shop/"'
        className={`${controlClass} font-mono text-sm`}
        spellCheck={false}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {text.trim() !== where && <Button type="submit">Show</Button>}
      {where && text.trim() === where && (
        <LinkButton aria-label="Remove the filter" onClick={() => onApply("")}>
          clear
        </LinkButton>
      )}
    </form>
  );
}

function Exports({ runId, listed }: { runId: string; listed: Listed }) {
  const query = (form: string) => new URLSearchParams({ ...listed, form }).toString();
  return (
    <span className="text-ink-2 flex items-center gap-2">
      Export
      {["csv", "xlsx", "jsonl"].map((form) => (
        <a
          key={form}
          className={`${buttonClass()} !px-2 no-underline`}
          href={`/api/v1/runs/${runId}/inventory/export?${query(form)}`}
          download
        >
          {form.toUpperCase()}
        </a>
      ))}
    </span>
  );
}

function Rows({
  listed,
  runId,
  byName,
  figures,
}: {
  listed: Listed;
  runId: string;
  byName: ReadonlyMap<string, InventoryColumn>;
  figures: InventoryFigures | undefined;
}) {
  const { site } = useSite();
  const [, set] = useAddress();
  const say = useSay();
  const parts = useInfiniteQuery(inventory.list(runId, listed));
  const shown = listed.columns.split(",").flatMap((name) => byName.get(name) ?? []);
  const columns: Column<InventoryRow>[] = shown.map((column) => {
    const sum = figures?.sums[column.name];
    return {
      head: column.label,
      sort: column.name,
      number: column.kind === "number",
      className: ["url", "source", "target"].includes(column.name) ? "min-w-56 whitespace-nowrap" : undefined,
      cell: (row) => <Cell value={row.values[column.name]} column={column} siteId={site.id} host={site.host} />,
      foot:
        column.total && typeof sum === "number"
          ? `${column.total === "sum" ? "Σ" : "ø"} ${figure(sum, column.unit)}`
          : undefined,
    };
  });
  const names = shown.map((column) => column.name);
  // The table knows columns by their heads, the service by its own names.
  const [sortedBy, descending] = [byName.get(listed.sort.replace(/^-/, ""))?.label, listed.sort.startsWith("-")];
  const sortBy = (order: string) => {
    const column = shown.find((each) => each.label === order.replace(/^-/, ""));
    if (column) set("sort", `${order.startsWith("-") ? "-" : ""}${column.name}`.replace(/^url$/, ""));
  };
  const copy = (rows: readonly InventoryRow[]) => {
    const lines = [
      shown.map((column) => column.label),
      ...rows.map((row) => shown.map((c) => plain(row.values[c.name]))),
    ];
    void navigator.clipboard
      .writeText(lines.map((cells) => cells.join("\t")).join("\n"))
      .then(() => say(`${count(rows.length)} rows copied, for pasting into a table.`));
  };
  return (
    <div className="min-w-0">
      <Loaded query={parts} tall={12}>
        {(data) => {
          const total = data.pages[0]?.total ?? 0;
          const all = figures?.all ?? total;
          const one = listed.of === "link" ? "link" : "address";
          return (
            <>
              <p className="text-ink-3 mb-1 text-sm">
                {total === all ? plural(total, one) : `${count(total)} of ${plural(all, one)}`}
              </p>
              <Table
                rows={data.pages.flatMap((part) => part.items)}
                columns={columns}
                id={(row) => row.id}
                caption="Inventory"
                empty="Nothing in this run matches. Change the filter."
                sorted={sortedBy && (descending ? `-${sortedBy}` : sortedBy)}
                onSort={sortBy}
                act={(chosen) => (
                  <span className="flex gap-3">
                    <LinkButton onClick={() => copy(chosen)}>Copy as table</LinkButton>
                    {listed.of === "page" && names.includes("url") && (
                      <CheckAgain siteId={site.id} urls={chosen.map((row) => String(row.values.url))} />
                    )}
                  </span>
                )}
                more={{ total, load: nextPart(parts) }}
              />
            </>
          );
        }}
      </Loaded>
    </div>
  );
}

/** A value for another program's table: without tabs and line breaks. */
const plain = (value: string | number | boolean | null | undefined) =>
  value === null || value === undefined ? "" : String(value).replace(/[\t\r\n]+/g, " ");
