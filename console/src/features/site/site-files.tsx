/** robots.txt, sitemaps and certificates with their state, and how well sitemaps and indexable pages cover one another. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { inventory, structures } from "../../api/queries/runs";
import type { Run, Site, SiteFile } from "../../api/types";
import { bytes, count, day, place, plural } from "../../lib/words";
import { Address, Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";

const WORDS: Record<SiteFile["kind"], string> = {
  robots: "robots.txt",
  sitemap: "Sitemap",
  certificate: "Certificate",
};

export function SiteFiles({ site, run }: { site: Site; run: Run }) {
  const found = useQuery(structures.files(run.id));
  return (
    <Card title="Site files" className="mt-3.5">
      <div className="grid items-start gap-x-6 gap-y-3 lg:grid-cols-[1.9fr_1fr]">
        <Loaded query={found} tall={4}>
          {(rows) => (
            <Table
              rows={rows}
              id={(row) => `${row.kind} ${row.url}`}
              caption="Files that speak for the whole site"
              empty="The run met neither robots.txt nor a sitemap."
              columns={[
                { head: "File", cell: (row) => WORDS[row.kind] },
                { head: "Address", cell: (row) => <Address text={place(row.url, site.host)} chars={40} /> },
                { head: "State", cell: (row) => state(row) },
                {
                  head: "As it is since",
                  cell: (row) => (row.since ? day(row.since) : <span className="text-ink-3">the first run known</span>),
                },
              ]}
            />
          )}
        </Loaded>
        <Coverage site={site} run={run} />
      </div>
    </Card>
  );
}

function state(row: SiteFile): string {
  if (row.kind === "certificate")
    return [
      `holds until ${day(row.ends)}`,
      ...(row.tls_versions?.length ? [`accepts ${row.tls_versions.join(", ")}`] : []),
    ].join(", ");
  if (row.failure) return `no answer: ${row.failure}`;
  const parts = [String(row.status ?? "–")];
  if (typeof row.entries === "number")
    parts.push(row.kind === "robots" ? plural(row.entries, "rule") : plural(row.entries, "URL"));
  if (typeof row.size_bytes === "number") parts.push(bytes(row.size_bytes));
  return [...parts, ...(row.problems ?? []).map((problem) => problem.replaceAll("-", " "))].join(", ");
}

const BOTH_WAYS = [
  { where: "indexable and in_sitemap", words: "indexable and in a sitemap" },
  { where: "indexable and not in_sitemap", words: "indexable, but in no sitemap" },
  { where: "in_sitemap and not indexable", words: "in a sitemap, but not indexable" },
] as const;

/** What sitemaps list against what may be indexed, both ways. */
function Coverage({ site, run }: { site: Site; run: Run }) {
  return (
    <div>
      <h3 className="mb-1 font-semibold">Sitemap coverage</h3>
      <ul>
        {BOTH_WAYS.map((way) => (
          <Way key={way.where} site={site} run={run} {...way} />
        ))}
      </ul>
    </div>
  );
}

function Way({ site, run, where, words }: { site: Site; run: Run; where: string; words: string }) {
  const found = useQuery(inventory.figures(run.id, { of: "page", where, columns: "url", by: "" }));
  return (
    <li className="flex justify-between gap-3 py-0.5">
      <span>{words}</span>
      <Link to={`/sites/${site.id}/inventory?${new URLSearchParams({ where })}`} className="min-h-[24px]">
        {found.data ? count(found.data.total) : "…"}
      </Link>
    </li>
  );
}
