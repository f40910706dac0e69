import { useQuery } from "@tanstack/react-query";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { plans, waivers } from "../../api/queries/sites";
import { day } from "../../lib/words";
import { Address, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { AccessCard } from "./access";
import { useSite } from "./context";
import { PlanForm } from "./plan-form";
import { ScheduleCard } from "./schedule";
import { ShareCard } from "./share-plan";

export function PlanScreen() {
  const { site } = useSite();
  const may = useMay();
  const plan = useQuery(plans.of(site.id));
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Card title="Plan" aside="applies from the next run">
        <Loaded query={plan} tall={12}>
          {(data) => <PlanForm plan={data} />}
        </Loaded>
      </Card>
      <div className="min-w-0 space-y-3.5">
        {site.kind === "own" && <ScheduleCard />}
        {may("get_access") && <AccessCard />}
        {may("replace_plan") && <ShareCard />}
        <Waivers />
      </div>
    </div>
  );
}

function Waivers() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const found = useQuery(waivers.of(site.id));
  const end = useChange(waivers.end(site.id));
  return (
    <Card title="Waivers" aside="still examined, not counted">
      {end.error && <Trouble error={end.error} />}
      <Loaded query={found} tall={3}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Waivers"
            empty="Nothing is waived on this site."
            columns={[
              {
                head: "Check",
                cell: (r) => (
                  <>
                    {r.summary}
                    {r.pattern && (
                      <div>
                        <Address text={r.pattern} chars={42} />
                      </div>
                    )}
                    <div className="text-ink-3 text-sm">
                      {r.reason}
                      {r.author && ` (${r.author})`}
                    </div>
                  </>
                ),
              },
              { head: "Until", cell: (r) => (r.end ? day(r.end) : "no end") },
              {
                head: "Remove",
                quiet: true,
                cell: (r) =>
                  may("remove_waiver") && (
                    <LinkButton
                      aria-label={`End the waiver of ${r.summary}`}
                      onClick={() => end.mutate(r.id, { onSuccess: () => say("The waiver ends with the next run.") })}
                    >
                      end
                    </LinkButton>
                  ),
              },
            ]}
          />
        )}
      </Loaded>
    </Card>
  );
}
