/** Versions of a page in other languages: who names whom. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { pages } from "../../../api/queries/runs";
import type { LanguageSet, Version } from "../../../api/types";
import { place, plural } from "../../../lib/words";
import { Address } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { Table } from "../../../ui/table";
import { useSite } from "../context";

export function LanguageMatrix({ url, runId }: { url: string; runId: string }) {
  const found = useQuery(pages.languages(runId, url));
  return (
    <Loaded query={found} tall={6}>
      {(set) =>
        set.versions.length === 0 ? (
          <p className="text-ink-3">The page names no versions in other languages.</p>
        ) : (
          <Matrix set={set} />
        )
      }
    </Loaded>
  );
}

function Matrix({ set }: { set: LanguageSet }) {
  const { site } = useSite();
  const own = new Map(set.versions[0]?.names ?? []);
  return (
    <>
      <p className="mb-1.5">
        {set.missing === 0
          ? `All ${plural(set.versions.length, "version")} name one another.`
          : `${plural(set.missing, "annotation")} to another version ${set.missing === 1 ? "is" : "are"} missing: search engines follow only those that are returned.`}
      </p>
      <Table
        rows={set.versions}
        id={(row) => row.url}
        caption="Versions, and which each names for every code"
        empty=""
        columns={[
          {
            head: "Version",
            cell: (row) => (
              <Link to={`/sites/${site.id}/page?tab=languages&url=${encodeURIComponent(row.url)}`}>
                <Address text={place(row.url, site.host)} chars={44} />
              </Link>
            ),
          },
          { head: "Status", number: true, cell: (row) => row.status ?? "–" },
          { head: "Declares", cell: (row) => row.lang || "nothing" },
          { head: "Indexable", cell: (row) => (row.indexable === null ? "–" : row.indexable ? "yes" : "no") },
          ...set.codes.map((code) => ({
            head: code,
            cell: (row: Version) => <Names version={row} code={code} expected={own.get(code) ?? ""} />,
          })),
        ]}
      />
    </>
  );
}

function Names({ version, code, expected }: { version: Version; code: string; expected: string }) {
  const { site } = useSite();
  const named = version.names.filter(([each]) => each === code).map(([, url]) => url);
  if (named.length === 0) return <span className="text-bad">□ not named</span>;
  if (named.includes(expected)) return <span>■ named</span>;
  return (
    <span className="text-bad">
      ◪ <Address text={place(named[0] ?? "", site.host)} chars={24} />
    </span>
  );
}
