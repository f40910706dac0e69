import { useInfiniteQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { type Chosen, comparisons } from "../../api/queries/runs";
import type { Comparison } from "../../api/types";
import { count, place, plural } from "../../lib/words";
import { Downloads } from "../../ui/downloads";
import { Address, Card, Chip } from "../../ui/parts";
import { Change, CHANGES, type ChangeName, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";
import { useSite } from "./context";
import { comparedExports } from "./exports";
import { Subject } from "./subject";

/** Where the findings are shown that somebody chooses further up. */
export const TOGETHER = "taken-together";
const NAMES = Object.keys(CHANGES) as ChangeName[];

/** How the findings of the one run become those of the other, class by class; each class opens its findings. */
export function Balance({ data }: { data: Comparison }) {
  const { chosen, choose } = useChosen(data);
  return (
    <Card>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <span>
          <b className="font-semibold">{count(data.base_findings)}</b> findings then
        </span>
        {NAMES.filter((name) => data.counts[name]).map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={chosen.change === name}
            title={`Show findings: ${CHANGES[name].words}`}
            className={`hover:underline ${CHANGES[name].tone} ${chosen.change === name ? "underline" : ""}`}
            onClick={() => choose({ change: name })}
          >
            <span aria-hidden="true">{CHANGES[name].sign}</span>{" "}
            <b className="font-semibold">{count(data.counts[name])}</b> {CHANGES[name].words}
          </button>
        ))}
        <span>
          <b className="font-semibold">{count(data.head_findings)}</b> findings now
        </span>
      </div>
    </Card>
  );
}

/** What is chosen in the address of the view, and how another choice goes into it. */
export function useChosen(data: Comparison): { chosen: Chosen; choose: (chosen: Chosen) => void } {
  const [view, setView] = useSearchParams();
  const number = (name: string) => (/^\d+$/.test(view.get(name) ?? "") ? Number(view.get(name)) : undefined);
  const chosen: Chosen = {
    change: NAMES.find((name) => name === view.get("change")),
    check: view.get("check") ?? undefined,
    event: number("event"),
    part: number("part"),
  };
  const choose = (next: Chosen) => {
    const kept = Object.fromEntries([...view].filter(([name]) => !["change", "check", "event", "part"].includes(name)));
    const given = Object.entries(next).filter(([, value]) => value !== undefined);
    setView(
      {
        ...kept,
        base: data.base,
        head: data.head,
        by: "findings",
        ...Object.fromEntries(given.map(([k, v]) => [k, String(v)])),
      },
      { replace: true },
    );
    requestAnimationFrame(() => document.getElementById(TOGETHER)?.scrollIntoView?.({ block: "nearest" }));
  };
  return { chosen, choose };
}

/** The findings of a comparison, narrowed down to what is chosen. */
export function ComparedFindings({ data }: { data: Comparison }) {
  const { site } = useSite();
  const { chosen, choose } = useChosen(data);
  const found = useInfiniteQuery(comparisons.findings(data.base, data.head, chosen));
  const part = found.data?.pages[0]?.part;
  const event = chosen.event === undefined ? undefined : data.events[chosen.event];
  const check = data.by_check.find((row) => row.check === chosen.check);
  const without = (name: keyof Chosen) => choose({ ...chosen, [name]: undefined });
  const narrowed = [
    ...(event ? [["event", event.title] as const] : []),
    ...(check ? [["check", check.summary] as const] : []),
    ...(part ? [["part", place(part.name, site.host)] as const] : []),
  ];
  return (
    <>
      <div className="mb-2.5 flex flex-wrap gap-1.5">
        {narrowed.map(([name, words]) => (
          <Chip key={name} on onClick={() => without(name)} title="Show all again">
            {words} <span aria-hidden="true">×</span>
            <span className="sr-only">, show all again</span>
          </Chip>
        ))}
        {NAMES.filter((name) => data.counts[name]).map((name) => (
          <Chip
            key={name}
            on={chosen.change === name}
            onClick={() => choose({ ...chosen, change: chosen.change === name ? undefined : name })}
          >
            <Change name={name} />
          </Chip>
        ))}
        <span className="ml-auto">
          <Downloads items={comparedExports(data, chosen)} />
        </span>
      </div>
      {chosen.change === "check-changed" && (
        <p className="text-ink-2 mb-2 text-sm">
          The rule of these checks changed between the runs, so a difference may be the site’s or the rule’s. From the
          next run on they are compared again.
        </p>
      )}
      <Loaded query={found} tall={8}>
        {(pages) => {
          const total = pages.pages[0]?.findings_total ?? 0;
          return (
            <Table
              rows={pages.pages.flatMap((each) => each.findings)}
              id={(r) => r.fingerprint}
              caption="Findings by class"
              note={plural(total, "finding")}
              empty="No findings like these."
              more={{ total, load: nextPart(found) }}
              columns={[
                { head: "Class", cell: (r) => <Change name={r.change} /> },
                { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
                { head: "Check", cell: (r) => <Link to={`/sites/${site.id}/checks/${r.check}`}>{r.summary}</Link> },
                {
                  head: "On",
                  className: "min-w-44",
                  cell: (r) => <Subject siteId={site.id} host={site.host} subject={r.subject} chars={44} />,
                },
                { head: "Place", cell: (r) => <Address text={place(r.place, site.host)} chars={40} /> },
              ]}
            />
          );
        }}
      </Loaded>
    </>
  );
}
