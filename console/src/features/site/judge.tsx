import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { runs } from "../../api/queries/runs";
import type { PlanValues, Run } from "../../api/types";
import { moment, plural, points, signed } from "../../lib/words";
import { Button } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSite } from "./context";

const WHILE_IT_IS_EXAMINED_MS = 1000;
/** The settings that say how what was fetched is judged. */
const JUDGING = ["obey_noindex", "obey_canonical", "thresholds", "checks_off", "severities"];

/** The last run re-examined with the plan as it stands in the form, saved or not. Nothing is crawled for it. */
export function Judge({ values }: { values: () => PlanValues }) {
  const { run } = useSite();
  const again = useChange(runs.again(run?.id ?? ""));
  const made = useQuery({
    ...runs.one(again.data?.id),
    refetchInterval: ({ state }) => (state.data && ended(state.data) ? false : WHILE_IT_IS_EXAMINED_MS),
  }).data;
  if (!run) return null;
  const ask = () => {
    const { profile, ...given } = values() as Record<string, unknown>;
    const judging = Object.fromEntries(Object.entries(given).filter(([name]) => JUDGING.includes(name)));
    again.mutate({ profile: typeof profile === "string" ? profile : "", values: judging });
  };
  return (
    <div className="mt-3">
      <Button disabled={again.isPending || (!!again.data && !(made && ended(made)))} onClick={ask}>
        Re-examine last run
      </Button>
      <p className="text-ink-3 mt-1 text-sm">
        Uses the checks, limits and severities above, saved or not. Nothing is crawled, and the original run is kept.
      </p>
      {again.error && (
        <div className="mt-2">
          <Trouble error={again.error} />
        </div>
      )}
      <p role="status" className="mt-1">
        {again.data && <Outcome made={made} source={run} />}
      </p>
    </div>
  );
}

const ended = (run: Run) => !["queued", "crawling", "examining"].includes(run.state);

function Outcome({ made, source }: { made: Run | undefined; source: Run }) {
  if (!made || !ended(made)) return <>Re-examining the run of {moment(source.requested_at)}.</>;
  if (made.state === "failed") return <>It failed: {made.reason}</>;
  const by = made.health_change === null || made.health_change === undefined ? "" : ` (${signed(made.health_change)})`;
  return (
    <>
      Health {points(source.health)} → {points(made.health)}
      {by}, {plural(made.findings ?? 0, "finding")} instead of {source.findings?.toLocaleString("en-GB")}.{" "}
      <Link to={`/sites/${made.site_id}/changes?base=${source.id}&head=${made.id}`} target="_blank">
        See what differs
      </Link>
    </>
  );
}
