/** Which run of a site is shown: its latest, or an earlier one that the address names and that stays chosen while one looks round the site. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { runs } from "../../api/queries/runs";
import { isDay } from "../../lib/dates";
import type { Run, Site } from "../../api/types";
import { moment, points } from "../../lib/words";
import { Select } from "../../ui/controls";
import { LinkButton } from "../../ui/parts";
import { inLine } from "./appearance";

const LATEST = "latest";

/** What the service calls a run that the address names by its id or by a day. */
export const nameOf = (siteId: number, asked: string) => (isDay(asked) ? `${siteId}@${asked}` : asked);

/**
 * What the address asks for is kept while one is on the site, and put back into the address of every place that one goes to, so that what is
 * seen can always be sent to a colleague. `run=latest` forgets it.
 */
export function useChosenRun(site: Site) {
  const [view, setView] = useSearchParams();
  const [kept, setKept] = useState({ site: site.id, run: "" });
  const asked = view.get("run") ?? "";
  const before = kept.site === site.id ? kept.run : "";
  const chosen = asked === LATEST ? "" : asked || before;
  if (chosen !== before || kept.site !== site.id) setKept({ site: site.id, run: chosen });
  useEffect(() => {
    if (chosen === asked) return;
    const next = new URLSearchParams(view);
    if (chosen) next.set("run", chosen);
    else next.delete("run");
    setView(next, { replace: true });
  }, [asked, chosen, setView, view]);
  return chosen;
}

/** Says which run is shown, and lets one choose another. */
export function RunChoice({ site, run, chosen }: { site: Site; run: Run; chosen: string }) {
  const [, setView] = useSearchParams();
  const all = useQuery(runs.finished(site)).data ?? [];
  const audits = all.filter((each) => inLine(each) || each.id === run.id);
  const latest = audits[0]?.id === run.id;
  return (
    <span className="w-52">
      <Select
        aria-label="Run that is shown"
        value={chosen ? run.id : latest ? run.id : LATEST}
        onChange={(id) => setView({ run: id === audits[0]?.id ? LATEST : id })}
        choices={audits.map((each) => ({
          value: each.id,
          label: `${moment(each.requested_at)}${typeof each.health === "number" ? ` · ${points(each.health)}` : ""}`,
        }))}
      />
    </span>
  );
}

/** Above every place while an earlier run is shown. */
export function EarlierNotice({ site, run }: { site: Site; run: Run }) {
  const [, setView] = useSearchParams();
  return (
    <p role="status" className="bg-accent-soft mb-3.5 rounded-md px-3 py-1.5">
      You see the run of {moment(run.requested_at)}, not the latest of {site.host}. To-dos and waivers are made from the
      latest. <LinkButton onClick={() => setView({ run: LATEST })}>Show the latest</LinkButton>
    </p>
  );
}
