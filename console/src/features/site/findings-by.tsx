/** Findings gathered by where they are: page, folder, template, area. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { findings, inventory, type Listed, structures } from "../../api/queries/runs";
import type { BranchKind, Check, Severity } from "../../api/types";
import { count, place, plural, points } from "../../lib/words";
import { Address, LinkButton } from "../../ui/parts";
import { SEVERITIES } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";
import { useSite } from "./context";

const COLUMNS = "url,title,health,critical,high,medium,low";
const FIGURES = ["critical", "high", "medium", "low"] as const;

/** Pages by the findings on them, the worst first. */
export function PagesWithFindings({ runId, severity, text }: { runId: string; severity: string; text: string }) {
  const { site } = useSite();
  const [sort, setSort] = useState("health");
  const term = text.trim().replace(/["\\]/g, "");
  const where = [
    severity ? `${severity} > 0` : "(critical > 0 or high > 0 or medium > 0 or low > 0)",
    ...(term ? [`(url contains "${term}" or title contains "${term}")`] : []),
  ].join(" and ");
  const listed: Listed = { of: "page", where, columns: COLUMNS, sort };
  const parts = useInfiniteQuery(inventory.list(runId, listed));
  const heads: Record<string, string> = {
    health: "Health",
    critical: "Critical",
    high: "High",
    medium: "Medium",
    low: "Low",
  };
  const names = Object.fromEntries(Object.entries(heads).map(([name, head]) => [head, name]));
  return (
    <Loaded query={parts} tall={12}>
      {(data) => {
        const total = data.pages[0]?.total ?? 0;
        return (
          <>
            <p className="text-ink-3 mb-1 text-sm">
              {plural(total, "page")} ·{" "}
              <Link to={`/sites/${site.id}/inventory?${new URLSearchParams({ where, columns: COLUMNS, sort })}`}>
                filter and export in the inventory
              </Link>
            </p>
            <Table
              rows={data.pages.flatMap((part) => part.items)}
              id={(row) => row.id}
              caption="Pages with findings"
              empty="No page like this has findings."
              more={{ total, load: nextPart(parts) }}
              sorted={`${sort.startsWith("-") ? "-" : ""}${heads[sort.replace(/^-/, "")]}`}
              onSort={(head) =>
                setSort(`${head.startsWith("-") ? "-" : ""}${names[head.replace(/^-/, "")] ?? "health"}`)
              }
              columns={[
                {
                  head: "Page",
                  cell: (row) => (
                    <>
                      <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(String(row.values.url))}`}>
                        <Address text={place(String(row.values.url), site.host)} chars={70} />
                      </Link>
                      <span className="text-ink-3 block max-w-120 truncate text-sm">{row.values.title}</span>
                    </>
                  ),
                },
                {
                  head: "Health",
                  number: true,
                  sort: "health",
                  cell: (row) => points(row.values.health as number | null),
                },
                ...FIGURES.map((name) => ({
                  head: heads[name] ?? name,
                  number: true,
                  sort: name,
                  cell: (row: { values: Record<string, unknown> }) => count(row.values[name] as number | null),
                })),
              ]}
            />
          </>
        );
      }}
    </Loaded>
  );
}

/** Findings by folder or by template. Folders are opened one by one. */
export function FindingsByBranch({ runId, by }: { runId: string; by: BranchKind }) {
  const { site } = useSite();
  const [below, setBelow] = useState("/");
  const found = useQuery(structures.branches(runId, by, below));
  return (
    <Loaded query={found} tall={10}>
      {(data) => {
        const rows = [...data.branches, ...(data.own ? [data.own] : [])].filter((row) => row.findings > 0);
        return (
          <>
            {by === "folder" && below !== "/" && (
              <p className="mb-1.5 font-mono text-sm">
                {below} <LinkButton onClick={() => setBelow(below.replace(/[^/]+\/$/, ""))}>up</LinkButton>
              </p>
            )}
            <Table
              rows={rows}
              id={(row) => row.where}
              caption={`Findings by ${by}`}
              empty="No findings here."
              columns={[
                {
                  head: by === "folder" ? "Folder" : "Template",
                  sort: (row) => row.name,
                  cell: (row) => {
                    if (row === data.own) return <i>{by === "folder" ? "directly in this folder" : "no template"}</i>;
                    if (row.inner === 0) return <span className="font-mono text-sm break-all">{row.label}</span>;
                    return (
                      <LinkButton className="font-mono text-sm" onClick={() => setBelow(row.name)}>
                        {row.name}
                      </LinkButton>
                    );
                  },
                },
                { head: "Findings", number: true, sort: (row) => row.findings, cell: (row) => count(row.findings) },
                { head: "Severe", number: true, sort: (row) => row.severe, cell: (row) => count(row.severe) },
                {
                  head: "Per page",
                  number: true,
                  sort: (row) => row.findings / row.pages,
                  cell: (row) => points(row.findings / row.pages),
                },
                { head: "Health", number: true, sort: (row) => row.health, cell: (row) => points(row.health) },
                {
                  head: "Pages",
                  number: true,
                  sort: (row) => row.pages,
                  cell: (row) => (
                    <Link
                      to={`/sites/${site.id}/inventory?${new URLSearchParams({ where: row.where, columns: COLUMNS, sort: "health" })}`}
                    >
                      {count(row.pages)}
                    </Link>
                  ),
                },
              ]}
            />
          </>
        );
      }}
    </Loaded>
  );
}

/** Findings by area of the catalogue; each opens its checks. */
export function FindingsByArea({ runId, shown }: { runId: string; shown: (row: { severity: Severity }) => boolean }) {
  const { site } = useSite();
  const checks = useQuery(findings.checks(runId));
  return (
    <Loaded query={checks} tall={10}>
      {(all) => {
        const areas = new Map<string, Check[]>();
        for (const row of all.filter(shown)) areas.set(row.area, [...(areas.get(row.area) ?? []), row]);
        const rows = [...areas.entries()].map(([area, own]) => ({
          area,
          name: own[0]?.area_name ?? area,
          checks: own.length,
          findings: sum(own, (row) => row.findings),
          fixes: sum(own, (row) => row.fixes),
          by: Object.fromEntries(
            SEVERITIES.map((name) => [
              name,
              sum(
                own.filter((row) => row.severity === name),
                (row) => row.findings,
              ),
            ]),
          ),
        }));
        return (
          <Table
            rows={rows.sort((a, b) => b.findings - a.findings)}
            id={(row) => row.area}
            caption="Findings by area"
            empty="All checks pass."
            columns={[
              {
                head: "Area",
                sort: (row) => row.name,
                cell: (row) => <Link to={`/sites/${site.id}/findings?area=${row.area}`}>{row.name}</Link>,
              },
              { head: "Checks that fail", number: true, sort: (row) => row.checks, cell: (row) => count(row.checks) },
              { head: "Findings", number: true, sort: (row) => row.findings, cell: (row) => count(row.findings) },
              ...SEVERITIES.map((name) => ({
                head: name[0]?.toUpperCase() + name.slice(1),
                number: true,
                sort: (row: { by: Record<string, number> }) => row.by[name],
                cell: (row: { by: Record<string, number> }) => count(row.by[name]),
              })),
              { head: "Fixes", number: true, sort: (row) => row.fixes, cell: (row) => count(row.fixes) },
            ]}
          />
        );
      }}
    </Loaded>
  );
}

const sum = (rows: readonly Check[], of: (row: Check) => number) => rows.reduce((total, row) => total + of(row), 0);
