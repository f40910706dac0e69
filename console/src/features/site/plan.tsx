import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { plans } from "../../api/queries/sites";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { AccessCard } from "./access";
import { useSite } from "./context";
import { PlanForm } from "./plan-form";
import { ScheduleCard } from "./schedule";
import { ShareCard } from "./share-plan";
import { Waivers } from "./waivers";

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
        {may("list_runs") && site.kind === "own" && (
          <Card title="User agents">
            <p>
              <Link className="underline" to={`/sites/${site.id}/changes?since=agents`}>
                Compare user agents
              </Link>{" "}
              to see what the site serves to a phone or desktop browser that audits do not get.
            </p>
          </Card>
        )}
        {may("get_access") && <AccessCard />}
        {may("replace_plan") && <ShareCard />}
        <Waivers />
      </div>
    </div>
  );
}
