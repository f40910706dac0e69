/** How the templates of a site link to one another: followed links from the template of each row to that of each column. */
import { useQuery } from "@tanstack/react-query";
import { structures } from "../../../api/queries/runs";
import type { Run } from "../../../api/types";
import { count } from "../../../lib/words";
import { Card } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { Table } from "../../../ui/table";

export function TemplateLinks({ run }: { run: Run }) {
  const found = useQuery(structures.links(run.id));
  return (
    <Card title="Links between templates" aside="followed links; from the row to the column" className="mt-3.5">
      <Loaded query={found} tall={8}>
        {(data) => {
          const most = Math.max(1, ...data.links.flat());
          const names = data.branches.map((branch) => branch.label);
          return (
            <Table
              rows={names.map((name, row) => ({ name, row, pages: data.branches[row]?.pages ?? 0 }))}
              id={(row) => row.name}
              caption="Links from template to template"
              empty="The run has no pages with a template."
              columns={[
                {
                  head: "From",
                  cell: (row) => (
                    <span className="font-mono text-sm break-all">
                      {LETTERS[row.row]} {row.name}
                    </span>
                  ),
                },
                { head: "Pages", number: true, cell: (row) => count(row.pages) },
                ...names.map((_, column) => ({
                  head: `to ${LETTERS[column]}`,
                  number: true,
                  cell: (row: { row: number }) => {
                    const n = data.links[row.row]?.[column] ?? 0;
                    return n === 0 ? (
                      <span className="text-ink-3">–</span>
                    ) : (
                      <span
                        className="rounded-sm px-1"
                        style={{
                          background: `color-mix(in srgb, var(--accent) ${Math.round(8 + (22 * n) / most)}%, transparent)`,
                        }}
                      >
                        {count(n)}
                      </span>
                    );
                  },
                })),
              ]}
            />
          );
        }}
      </Loaded>
    </Card>
  );
}

const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";
