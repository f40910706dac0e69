/** The facts of a page in short, and where its redirects lead. */
import { Link } from "react-router";
import type { Page } from "../../../api/types";
import { bytes, count, day, place, points } from "../../../lib/words";
import { Address, Card } from "../../../ui/parts";
import { Course } from "../../../ui/signs";
import { useSite } from "../context";

type Fact = [string, React.ReactNode];

export function PageFacts({ page }: { page: Page }) {
  const { site } = useSite();
  const hops = page.path ?? [];
  const rows: Fact[] = [
    ["Status", `${page.status ?? page.failure ?? "none"}${page.content_type ? `, ${page.content_type}` : ""}`],
    ["First byte", page.first_byte_ms == null ? "not measured" : `${points(page.first_byte_ms)} ms`],
    ...(page.why_not === null || page.why_not === undefined
      ? []
      : ([["Indexable", page.why_not === "" ? "yes" : `no: ${page.why_not}`]] as Fact[])),
    ["Size", bytes(page.decoded_bytes)],
    ["Canonical", canonical(page, site.host)],
    ["Words", count(page.words)],
    ["Robots directives", (page.robots ?? []).join(", ") || "none"],
    ["Click depth", count(page.depth)],
    ["Blocked by", page.rule || "nothing"],
    ["In a sitemap", page.listed ? "yes" : "no"],
    ["Language", page.lang || "not declared"],
    ["Encoding", `${page.encoding || "–"}${page.encoding_source ? ` (by ${page.encoding_source})` : ""}`],
    ["Server", page.remote ? `${page.remote}, HTTP/${page.http_version}` : "–"],
    ...(page.tls?.version
      ? ([["Certificate", `until ${day(page.tls.not_after)}, ${page.tls.version}`]] as Fact[])
      : []),
    ["Structured data", (page.data_types ?? []).join(", ") || "none"],
  ];
  return (
    <Card>
      {page.health !== null && page.health !== undefined && (
        <div className="mb-2 flex items-center gap-2.5">
          <Course health={page.health} brick={8} /> {points(page.health)} of 100, high is good
        </div>
      )}
      <dl className="grid gap-x-6 sm:grid-cols-2">
        {rows.map(([name, value]) => (
          <div key={name} className="border-line grid grid-cols-[7.5rem_minmax(0,1fr)] gap-2 border-b py-1">
            <dt className="text-ink-3">{name}</dt>
            <dd className="min-w-0 break-words">{value}</dd>
          </div>
        ))}
      </dl>
      {hops.length > 1 && (
        <>
          <h2 className="mt-3 mb-1 font-semibold">Redirects</h2>
          <ol className="list-decimal pl-5">
            {hops.map((hop, n) => (
              <li key={hop.url}>
                {n === 0 ? (
                  <Address text={place(hop.url, site.host)} chars={60} />
                ) : (
                  <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(hop.url)}`}>
                    <Address text={place(hop.url, site.host)} chars={60} />
                  </Link>
                )}{" "}
                {hop.status ?? hop.failure}
              </li>
            ))}
          </ol>
        </>
      )}
    </Card>
  );
}

function canonical(page: Page, host: string) {
  if (!page.canonical) return "none";
  return page.canonical === page.url ? "itself" : <Address text={place(page.canonical, host)} chars={34} />;
}
