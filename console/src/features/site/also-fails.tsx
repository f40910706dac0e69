/** Other sites on which a check fails now: one fix may serve several. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { catalogue } from "../../api/queries/work";
import { count } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { useSite } from "./context";

const SHOWN = 12;

export function AlsoFails({ check }: { check: string }) {
  const { site } = useSite();
  const may = useMay();
  const found = useQuery({ ...catalogue.failingSites(check), enabled: may("list_failing_sites") });
  if (!may("list_failing_sites")) return null;
  return (
    <Card title="On other sites">
      <Loaded query={found} tall={3}>
        {(rows) => {
          const others = rows.filter((row) => row.site_id !== site.id);
          if (others.length === 0) return <p className="text-ink-3">It fails on no other site now.</p>;
          return (
            <ul>
              {others.slice(0, SHOWN).map((row) => (
                <li key={row.site_id} className="flex justify-between gap-3 py-0.5">
                  <Link to={`/sites/${row.site_id}/checks/${check}`}>{row.host}</Link>
                  <span className="text-ink-2 text-sm whitespace-nowrap">{count(row.findings)} places</span>
                </li>
              ))}
              {others.length > SHOWN && <li className="text-ink-3">and {count(others.length - SHOWN)} more</li>}
            </ul>
          );
        }}
      </Loaded>
    </Card>
  );
}
