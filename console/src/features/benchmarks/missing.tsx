/** What competitors have and the own site has not. */
import type { Benchmark } from "../../api/types";
import { count } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Table } from "../../ui/table";

const KINDS: Record<string, string> = {
  kinds: "Kind of page",
  types: "Structured data",
  languages: "Language",
  terms: "In titles and headings",
};

export function Missing({ data }: { data: Benchmark }) {
  const rows = data.missing ?? [];
  return (
    <Card title="What competitors have and we have not" aside="indexable pages that have it" className="mt-3.5">
      <Table
        rows={rows}
        id={(r) => `${r.kind} ${r.name}`}
        name="missing"
        caption="What competitors have and we have not"
        empty="Nothing: every kind of page, type of structured data, language and frequent term of theirs is on our site too."
        columns={[
          { head: "What", sort: (r) => r.kind, cell: (r) => <span className="text-ink-3">{KINDS[r.kind]}</span> },
          { head: "Name", sort: (r) => r.name, cell: (r) => r.name },
          ...data.hosts.slice(1).map((host, i) => ({
            head: host,
            number: true,
            sort: (r: (typeof rows)[number]) => r.pages[i + 1],
            cell: (r: (typeof rows)[number]) => (r.pages[i + 1] ? count(r.pages[i + 1]) : "–"),
          })),
        ]}
      />
    </Card>
  );
}
