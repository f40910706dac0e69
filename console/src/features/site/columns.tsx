import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { comparisons } from "../../api/queries/runs";
import type { RunBrief } from "../../api/types";
import { count, day, moment, points } from "../../lib/words";
import { TickMenu } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";

const SHOWN = 6;
/** As many as the service puts side by side. */
const MOST = 24;
const isScore = (figure: string) => figure === "health" || figure.startsWith("area.");

/** Any number of runs side by side, figure by figure. */
export function Columns({ audits }: { audits: readonly RunBrief[] }) {
  const [view, setView] = useSearchParams();
  const asked = (view.get("runs") ?? "").split(",").filter((id) => audits.some((run) => run.id === id));
  const chosen = asked.length > 0 ? asked : audits.slice(0, SHOWN).map((run) => run.id);
  const found = useQuery(comparisons.columns(chosen));
  const set = (id: string, on: boolean) => {
    const next = on ? [...chosen, id] : chosen.filter((each) => each !== id);
    if (next.length > 0 && next.length <= MOST)
      setView({ ...Object.fromEntries(view), runs: next.join(",") }, { replace: true });
  };
  return (
    <Card
      title="Runs side by side"
      aside={
        <TickMenu
          label="Runs"
          items={audits.map((run) => ({ id: run.id, label: moment(run.requested_at), on: chosen.includes(run.id) }))}
          onChange={set}
        />
      }
    >
      <Loaded query={found} tall={14}>
        {(data) => (
          <Table
            rows={data.rows}
            id={(r) => r.id}
            caption="Figures of the chosen runs, the earliest run first"
            empty="These runs have no figures."
            columns={[
              { head: "Severity", quiet: true, cell: (r) => r.severity && <Severity name={r.severity} bare /> },
              { head: "Figure", cell: (r) => r.label },
              ...data.runs.map((_, place) => ({
                head: columnHead(data.runs, place),
                number: true,
                cell: (r: (typeof data.rows)[number]) => {
                  const value = r.values[place] ?? null;
                  return isScore(r.id) ? points(value) : count(value);
                },
              })),
            ]}
          />
        )}
      </Loaded>
    </Card>
  );
}

/** The day of a run; with its time where two are of one day, and a note where it did not reach the whole site. */
function columnHead(runs: readonly { at: string | null; partial: boolean }[], place: number): string {
  const run = runs[place];
  const twice = runs.filter((each) => day(each.at) === day(run?.at)).length > 1;
  return (twice ? moment(run?.at) : day(run?.at)) + (run?.partial ? " (partial)" : "");
}
