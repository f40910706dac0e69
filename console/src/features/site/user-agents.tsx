/** Another user agent's crawl of the site, to see what it is served that audits are not. */
import { useQuery } from "@tanstack/react-query";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { runs } from "../../api/queries/runs";
import { plans } from "../../api/queries/sites";
import type { Appearance, RunBrief, Site } from "../../api/types";
import { count, moment, points } from "../../lib/words";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { VISITORS } from "./appearance";
import { RunProgress } from "./run-progress";

const ACTIVE = ["queued", "crawling", "examining"];
const ALL = Object.keys(VISITORS) as Appearance[];

export function UserAgents({ site, head, choose }: { site: Site; head: string; choose: (run: RunBrief) => void }) {
  const made = useQuery(runs.userAgents(site));
  return (
    <Loaded query={made} tall={4}>
      {({ items }) => {
        const active = items.find((run) => ACTIVE.includes(run.state));
        return (
          <>
            {active && <RunProgress id={active.id} what={`Crawl as ${VISITORS[active.appearance ?? "own"]}`} />}
            <Choices site={site} items={items} head={head} choose={choose} busy={active !== undefined} />
          </>
        );
      }}
    </Loaded>
  );
}

function Choices({
  site,
  items,
  head,
  choose,
  busy,
}: {
  site: Site;
  items: readonly RunBrief[];
  head: string;
  choose: (run: RunBrief) => void;
  busy: boolean;
}) {
  const may = useMay();
  const plan = useQuery(plans.of(site.id)).data;
  const start = useChange(runs.fetchAs(site.id));
  const own = plan?.values.appearance ?? "own";
  return (
    <Card title="What another user agent is served" className="mb-3.5">
      <p className="text-ink-2">
        A crawl beside the audits: same plan, another user agent. It is compared with the audit before it; health,
        to-dos and trends of the site stay as they are.
      </p>
      <ul className="mt-2 space-y-1.5">
        {ALL.filter((name) => name !== own).map((name) => {
          const last = items.find((run) => run.appearance === name && run.finished_at);
          const usable = last && typeof last.findings === "number" && last.file === "kept";
          return (
            <li key={name} className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <b className="w-44 font-semibold">As {VISITORS[name]}</b>
              <span className="text-ink-3 min-w-52 flex-1 text-sm">
                {!last && "not crawled yet"}
                {last?.state === "failed" && `failed ${moment(last.requested_at)}: ${last.reason}`}
                {usable &&
                  `${moment(last.requested_at)} · ${count(last.pages)} pages scored · health ${points(last.health)}`}
              </span>
              {usable &&
                (last.id === head ? (
                  <span className="text-ink-3 text-sm">shown below</span>
                ) : (
                  <LinkButton onClick={() => choose(last)}>Compare</LinkButton>
                ))}
              {may("fetch_as") && (
                <Button disabled={busy || start.isPending} onClick={() => start.mutate(name)}>
                  {last ? "Crawl again" : "Crawl"}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {start.error && <Trouble error={start.error} />}
    </Card>
  );
}
