import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { comparisons } from "../../api/queries/runs";
import type { ChangeGroup, CheckChange, ComparedList, ComparedPart, Comparison, PartKind } from "../../api/types";
import { bytes, count, place, plural } from "../../lib/words";
import { Tabs } from "../../ui/controls";
import { Address, Card, LinkButton } from "../../ui/parts";
import { CHANGES, type ChangeName, Severity, severityRank } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { type Column, nextPart, Table } from "../../ui/table";
import { ComparedFindings, TOGETHER, useChosen } from "./compared-findings";
import { useSite } from "./context";

const VIEWS = ["check", "cause", "page", "folder", "template", "changes", "urls", "findings"] as const;
type View = (typeof VIEWS)[number];

/** A comparison taken together in one way or another. */
export function ComparedTabs({ data }: { data: Comparison }) {
  const [view, setView] = useSearchParams();
  const by = VIEWS.find((name) => name === view.get("by")) ?? "check";
  const lists = Object.values(data.lists).reduce((a, b) => a + b, 0);
  const named: [View, string, number][] = [
    ["check", "Checks", data.by_check.length],
    ["cause", "Causes", data.parts.cause ?? 0],
    ["page", "Pages", data.parts.page ?? 0],
    ["folder", "Folders", data.parts.folder ?? 0],
    ["template", "Templates", data.parts.template ?? 0],
    ["changes", "Page changes", data.page_changes_total],
    ["urls", "Came and went", lists],
    ["findings", "Findings", Object.values(data.counts).reduce((a, b) => a + b, 0)],
  ];
  return (
    <Card id={TOGETHER}>
      <Tabs
        label="Findings taken together by"
        value={by}
        onChange={(name) =>
          setView({ ...Object.fromEntries(view), base: data.base, head: data.head, by: name }, { replace: true })
        }
        views={named.map(([value, label, n]) => ({
          value,
          label: (
            <>
              {label} <span className="text-ink-3 text-sm font-normal">{count(n)}</span>
            </>
          ),
        }))}
      >
        {by === "check" && <ByCheck data={data} />}
        {(by === "cause" || by === "page" || by === "folder" || by === "template") && <ByPart data={data} by={by} />}
        {by === "changes" && <PageChanges data={data} />}
        {by === "urls" && <CameAndWent data={data} />}
        {by === "findings" && <ComparedFindings data={data} />}
      </Tabs>
    </Card>
  );
}

type Counted = { counts: Partial<Record<ChangeName, number>>; then?: number | null; now?: number | null };
const NEW: readonly ChangeName[] = ["new", "new-with-page", "new-to-view", "waiver-ended"];
const CLASSES: readonly [string, readonly ChangeName[]][] = [
  ["▲ New", NEW],
  ["↺ Returned", ["returned"]],
  ["▼ Fixed", ["fixed"]],
  ["▽ Gone", ["gone-with-page"]],
  ["▨ Unverified", ["unverified"]],
  ["◇ Check changed", ["check-changed"]],
];
const sum = (row: Counted, names: readonly ChangeName[]) =>
  names.reduce((all, name) => all + (row.counts[name] ?? 0), 0);

/** Columns of how many there were, are, and of each class that any row has. */
function counted<Row extends Counted>(rows: readonly Row[], sorted: boolean): Column<Row>[] {
  const shown = CLASSES.filter(([, names]) => rows.some((row) => sum(row, names)));
  const by = (value: (row: Row) => number | null | undefined) => (sorted ? { sort: value } : {});
  return [
    { head: "Then", number: true, ...by((r) => r.then), cell: (r) => count(r.then) },
    { head: "Now", number: true, ...by((r) => r.now), cell: (r) => count(r.now) },
    ...shown.map(([head, names]): Column<Row> => ({
      head,
      number: true,
      ...by((r) => sum(r, names)),
      cell: (r) =>
        sum(r, names) ? (
          <span className={CHANGES[names[0] as ChangeName].tone}>{count(sum(r, names))}</span>
        ) : (
          <span className="text-ink-3">·</span>
        ),
    })),
  ];
}

function ByCheck({ data }: { data: Comparison }) {
  const { choose } = useChosen(data);
  return (
    <Table<CheckChange>
      rows={data.by_check}
      id={(r) => r.check}
      caption="Checks of which findings differ"
      empty="No check has findings that differ."
      columns={[
        { head: "Severity", sort: (r) => severityRank(r.severity), cell: (r) => <Severity name={r.severity} /> },
        {
          head: "Check",
          sort: (r) => r.summary,
          cell: (r) => (
            <LinkButton className="text-left whitespace-normal" onClick={() => choose({ check: r.check })}>
              {r.summary}
            </LinkButton>
          ),
        },
        ...counted(data.by_check, true),
      ]}
    />
  );
}

const PART_WORDS: Record<PartKind, [string, string]> = {
  cause: ["Cause", "No cause has findings that differ."],
  page: ["Page or file", "No page has findings that differ."],
  folder: ["Folder", "No folder has findings that differ."],
  template: ["Template", "No template has findings that differ."],
};

function ByPart({ data, by }: { data: Comparison; by: PartKind }) {
  const { site } = useSite();
  const { choose } = useChosen(data);
  const found = useInfiniteQuery(comparisons.parts(data.base, data.head, by));
  const [head, none] = PART_WORDS[by];
  return (
    <Loaded query={found} tall={8}>
      {(pages) => {
        const rows = pages.pages.flatMap((each) => each.items);
        const severity: Column<ComparedPart>[] =
          by === "cause" ? [{ head: "Severity", cell: (r) => r.severity && <Severity name={r.severity} /> }] : [];
        return (
          <Table<ComparedPart>
            rows={rows}
            id={(r) => r.id}
            caption={`${head}s of which findings differ`}
            empty={none}
            more={{ total: pages.pages[0]?.total ?? 0, load: nextPart(found) }}
            columns={[
              ...severity,
              {
                head,
                className: "min-w-44",
                cell: (r) => (
                  <LinkButton
                    className="text-left break-words whitespace-normal"
                    onClick={() => choose({ part: r.id })}
                  >
                    {by === "cause" ? r.name : <Address text={place(r.name, site.host)} chars={70} />}
                  </LinkButton>
                ),
              },
              ...counted(rows, false),
            ]}
          />
        );
      }}
    </Loaded>
  );
}

const shown = (field: string, value: string) => (field === "size" ? bytes(Number(value)) : value || "empty");

function PageChanges({ data }: { data: Comparison }) {
  const { site } = useSite();
  const [open, setOpen] = useState<number>();
  const group = data.page_changes.find((each) => each.id === open);
  if (group) return <Changed data={data} group={group} back={() => setOpen(undefined)} />;
  return (
    <Table<ChangeGroup>
      rows={data.page_changes}
      id={(r) => r.id}
      caption="What changed on pages and files, an edit made on many of them as one"
      note={`${plural(data.facts_changed, "fact")} in ${plural(data.page_changes_total, "change")}${data.page_changes_total > data.page_changes.length ? `, those on most pages shown` : ""}`}
      empty="Status, titles, descriptions, canonicals, directives and files are the same."
      columns={[
        {
          head: "On",
          className: "min-w-44",
          cell: (r) =>
            r.pages > 1 ? (
              <LinkButton onClick={() => setOpen(r.id)}>
                {plural(r.pages, r.role === "file" ? "file" : "page")}
              </LinkButton>
            ) : r.role === "page" ? (
              <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(r.url)}`}>
                <Address text={place(r.url, site.host)} chars={44} />
              </Link>
            ) : (
              <Address text={place(r.url, site.host)} chars={44} />
            ),
        },
        { head: "What", cell: (r) => r.field },
        {
          head: "Before",
          cell: (r) => (
            <span className="text-ink-3 break-words">
              {r.pages > 1 ? common(r, r.removed) : shown(r.field, r.base)}
            </span>
          ),
        },
        {
          head: "After",
          cell: (r) => <span className="break-words">{r.pages > 1 ? common(r, r.added) : shown(r.field, r.head)}</span>,
        },
      ]}
    />
  );
}

/** What an edit took out or put in: the whole value where nothing of it stayed, and else with signs that there is more around it. */
function common(group: ChangeGroup, part: string): string {
  if (!part) return group.removed || group.added ? "–" : "differs";
  return part === group.base || part === group.head ? part : `… ${part.trim()} …`;
}

function Changed({ data, group, back }: { data: Comparison; group: ChangeGroup; back: () => void }) {
  const { site } = useSite();
  const found = useInfiniteQuery(comparisons.changed(data.base, data.head, group.id));
  return (
    <Loaded query={found} tall={8}>
      {(pages) => (
        <>
          <LinkButton className="mb-2" onClick={back}>
            ← All page changes
          </LinkButton>
          <Table
            rows={pages.pages.flatMap((each) => each.items)}
            id={(r) => r.url}
            caption={`What this edit changed: ${group.field}`}
            note={plural(group.pages, group.role === "file" ? "file" : "page")}
            empty=""
            more={{ total: group.pages, load: nextPart(found) }}
            columns={[
              { head: "On", className: "min-w-44", cell: (r) => <Address text={place(r.url, site.host)} chars={60} /> },
              { head: "Before", cell: (r) => <span className="text-ink-3 break-words">{shown(r.field, r.base)}</span> },
              { head: "After", cell: (r) => <span className="break-words">{shown(r.field, r.head)}</span> },
            ]}
          />
        </>
      )}
    </Loaded>
  );
}

const LISTS: readonly [ComparedList, string][] = [
  ["appeared", "Pages appeared"],
  ["gone", "Pages gone from the site"],
  ["blocked", "Pages newly blocked by robots.txt"],
  ["listed", "Sitemap entries added"],
  ["unlisted", "Sitemap entries removed"],
  ["files-appeared", "Files appeared"],
  ["files-gone", "Files gone"],
];

function CameAndWent({ data }: { data: Comparison }) {
  const there = LISTS.filter(([name]) => data.lists[name]);
  if (there.length === 0)
    return <p className="text-ink-3 py-2">The same pages, files and sitemap entries in both runs.</p>;
  return (
    <div className="grid gap-4 lg:grid-cols-2">
      {there.map(([name, title]) => (
        <UrlList key={name} data={data} which={name} title={title} />
      ))}
    </div>
  );
}

function UrlList({ data, which, title }: { data: Comparison; which: ComparedList; title: string }) {
  const { site } = useSite();
  const found = useInfiniteQuery(comparisons.urls(data.base, data.head, which));
  const total = data.lists[which] ?? 0;
  return (
    <section className="min-w-0">
      <h3 className="mb-1 font-semibold">
        {title} <span className="text-ink-3 text-sm font-normal">{count(total)}</span>
      </h3>
      <Loaded query={found} tall={4}>
        {(pages) => {
          const urls = pages.pages.flatMap((each) => each.items);
          return (
            <>
              <ul
                className="border-line max-h-60 overflow-y-auto rounded-md border px-2.5 py-1"
                tabIndex={0}
                aria-label={title}
              >
                {urls.map((url) => (
                  <li key={url}>
                    <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(url)}`}>
                      <Address text={place(url, site.host)} chars={70} />
                    </Link>
                  </li>
                ))}
              </ul>
              {urls.length < total && <LinkButton onClick={nextPart(found)}>Show more</LinkButton>}
            </>
          );
        }}
      </Loaded>
    </section>
  );
}
