/** The site as a whole: its folders, hosts, languages and templates as a picture and a table, and how links flow through it. */
import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useNavigate } from "react-router";
import { structures } from "../../../api/queries/runs";
import type { Branch, BranchKind, Run, Site } from "../../../api/types";
import { useAddress } from "../../../lib/address";
import { count, plural, points } from "../../../lib/words";
import { Segments } from "../../../ui/controls";
import { Button, Card, LinkButton } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { Table } from "../../../ui/table";
import { useSite } from "../context";
import { NoRun } from "../no-run";
import { Flow } from "./flow";
import { TemplateLinks } from "./template-links";
import { savePng, saveSvg } from "../../../lib/picture";
import { SitemapCard } from "./sitemap";
import { HEALTH_STEPS, Treemap } from "./treemap";

const KINDS: readonly { value: BranchKind; label: string; one: string }[] = [
  { value: "folder", label: "by folder", one: "folder" },
  { value: "host", label: "by host", one: "host" },
  { value: "language", label: "by language", one: "language" },
  { value: "template", label: "by template", one: "template" },
];

export function StructureScreen() {
  const { site, run } = useSite();
  if (!run) return <NoRun site={site} />;
  return (
    <>
      <Branches site={site} run={run} />
      <Flow site={site} run={run} />
      <TemplateLinks run={run} />
      <SitemapCard site={site} run={run} />
    </>
  );
}

function Branches({ site, run }: { site: Site; run: Run }) {
  const [view, set] = useAddress();
  const kind = KINDS.find((each) => each.value === view.get("by")) ?? KINDS[0];
  const below = view.get("below") ?? "/";
  const by = kind?.value ?? "folder";
  const found = useQuery(structures.branches(run.id, by, by === "folder" ? below : "/"));
  const go = useNavigate();
  const picture = useRef<SVGSVGElement>(null);
  const inventory = (where: string) => `/sites/${site.id}/inventory?${new URLSearchParams({ where })}`;
  const open = (branch: Branch) => {
    if (by === "folder" && branch.inner > 0) set("below", branch.name);
    else void go(inventory(branch.where));
  };
  const name = `${site.host}-${by}`;
  return (
    <Card
      title="Pages"
      aside={
        <span className="flex flex-wrap items-center gap-2">
          <Segments
            label="Gather pages"
            value={by}
            onChange={(next) => set("by", next === "folder" ? "" : next)}
            choices={KINDS}
          />
          <Button onClick={() => picture.current && saveSvg(picture.current, `${name}.svg`)}>Save SVG</Button>
          <Button onClick={() => picture.current && void savePng(picture.current, `${name}.png`)}>Save PNG</Button>
        </span>
      }
    >
      {by === "folder" && <Trail below={below} choose={(path) => set("below", path === "/" ? "" : path)} />}
      <Loaded query={found} tall={14}>
        {(data) => {
          const rows = data.own ? [...data.branches, data.own] : data.branches;
          if (rows.length === 0) return <p className="text-ink-3">No pages lie here.</p>;
          return (
            <div className="grid items-start gap-4 lg:grid-cols-[1.35fr_1fr]">
              <div className="min-w-0">
                <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Picture of the branches">
                  <Treemap
                    svg={picture}
                    branches={rows}
                    below={data.below}
                    onOpen={open}
                    label={`Pages ${kind?.label ?? ""}, sized by number and coloured by health`}
                  />
                </div>
                <Legend />
              </div>
              <Table
                rows={rows}
                id={(row) => `${row === data.own ? "own " : ""}${row.name}`}
                caption={`Pages ${kind?.label ?? ""}`}
                empty=""
                columns={[
                  {
                    head: kind ? (kind.one[0] ?? "").toUpperCase() + kind.one.slice(1) : "",
                    sort: (row) => row.name,
                    cell: (row) => (
                      <Named
                        branch={row}
                        own={row === data.own}
                        below={data.below}
                        by={by}
                        descend={() => set("below", row.name)}
                      />
                    ),
                  },
                  {
                    head: "Pages",
                    number: true,
                    sort: (row) => row.pages,
                    cell: (row) => <Link to={inventory(row.where)}>{count(row.pages)}</Link>,
                  },
                  { head: "Health", number: true, sort: (row) => row.health, cell: (row) => points(row.health) },
                  { head: "Findings", number: true, sort: (row) => row.findings, cell: (row) => count(row.findings) },
                  { head: "Severe", number: true, sort: (row) => row.severe, cell: (row) => count(row.severe) },
                  {
                    head: "Link flow",
                    number: true,
                    sort: (row) => row.flow / row.pages,
                    cell: (row) => <span title="per page; 1 is the average page">{points(row.flow / row.pages)}</span>,
                  },
                ]}
              />
            </div>
          );
        }}
      </Loaded>
    </Card>
  );
}

/** The folders above the one that is shown. */
function Trail({ below, choose }: { below: string; choose: (path: string) => void }) {
  const parts = below.split("/").filter(Boolean);
  return (
    <nav aria-label="Folders above" className="mb-2 font-mono text-sm">
      {["", ...parts].map((part, n) => {
        const path = n === 0 ? "/" : `/${parts.slice(0, n).join("/")}/`;
        const label = `${part}/`;
        return n === parts.length ? (
          <b key={path} className="font-semibold">
            {label}
          </b>
        ) : (
          <LinkButton key={path} className="min-h-[24px] min-w-[24px]" onClick={() => choose(path)}>
            {label}
          </LinkButton>
        );
      })}
    </nav>
  );
}

function Named({
  branch,
  own,
  below,
  by,
  descend,
}: {
  branch: Branch;
  own: boolean;
  below: string;
  by: BranchKind;
  descend: () => void;
}) {
  if (own) return <i className="text-ink-2">{by === "folder" ? "directly in this folder" : "none"}</i>;
  const name = by === "folder" ? branch.name.slice(below.length) : branch.label;
  if (by !== "folder" || branch.inner === 0) return <span className="font-mono text-sm break-all">{name}</span>;
  return (
    <LinkButton
      className="text-left font-mono text-sm !whitespace-normal"
      onClick={descend}
      title={plural(branch.inner, "folder") + " in it"}
    >
      {name}
    </LinkButton>
  );
}

function Legend() {
  return (
    <ul className="text-ink-2 mt-1.5 flex flex-wrap gap-x-4 text-sm" aria-label="Colours">
      {HEALTH_STEPS.map((step) => (
        <li key={step.label} className="flex items-center gap-1.5">
          <svg width={12} height={12} aria-hidden="true">
            <rect width={12} height={12} style={{ fill: `var(${step.fill})` }} />
          </svg>
          {step.label}
        </li>
      ))}
    </ul>
  );
}
