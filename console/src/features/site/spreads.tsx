/** How the pages and links of a run are spread over the values of what people ask for most. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { inventory } from "../../api/queries/runs";
import type { InventoryKind, Run, Site } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { SpreadBars } from "./spread";

/** By what the pages of a run are counted: each opens those it counts. */
const OF_PAGES = [
  "status", "why_not", "depth", "words", "decoded_bytes", "first_byte_ms", "content_type", "canonical_is", "robots", "lang", "data_types",
  "template", "secure", "http_version",
]; // prettier-ignore
const OF_LINKS = ["rel", "kind", "landmark"];
const ONLY_LINKS = 'kind in ("anchor", "image-link")';
const VALUES_SHOWN = 6;

export function Spreads({ site, run }: { site: Site; run: Run }) {
  return (
    <Card title="How the pages and their links are spread" aside="each bar opens its pages or links" className="mt-3.5">
      <h3 className="mb-2 font-semibold">Pages</h3>
      <SpreadsOf site={site} run={run} of="page" where="" by={OF_PAGES} />
      <h3 className="mt-4 mb-2 font-semibold">Links</h3>
      <SpreadsOf site={site} run={run} of="link" where={ONLY_LINKS} by={OF_LINKS} />
    </Card>
  );
}

type Props = { site: Site; run: Run; of: InventoryKind; where: string; by: readonly string[] };

function SpreadsOf({ site, run, of, where, by }: Props) {
  const columns = useQuery(inventory.columns(of));
  const figures = useQuery(
    inventory.figures(run.id, { of, where, columns: of === "page" ? "url" : "source", by: by.join(",") }),
  );
  const [view] = useAddress();
  const navigate = useNavigate();
  const byName = new Map((columns.data ?? []).map((column) => [column.name, column]));
  const kind: Record<string, string> = of === "page" ? {} : { of };
  const open = (chosen: string) => {
    const query = new URLSearchParams({
      ...kind,
      where: where ? `${where} and ${chosen}` : chosen,
      ...(view.get("run") ? { run: view.get("run") ?? "" } : {}),
    });
    void navigate(`/sites/${site.id}/inventory?${query}`);
  };
  return (
    <Loaded query={figures} tall={6}>
      {(data) => (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2 xl:grid-cols-3">
          {data.spreads.map((spread) => {
            const column = byName.get(spread.column);
            if (
              !column ||
              spread.shares.every((share) => share.value === null && share.low === null && share.high === null)
            )
              return null;
            return (
              <section key={spread.column} aria-label={column.label}>
                <h4 className="text-ink-2 mb-0.5 text-sm font-semibold">
                  <Link
                    to={`/sites/${site.id}/inventory?${new URLSearchParams({ ...kind, ...(where && { where }), by: column.name })}`}
                    className="text-ink-2 inline-block min-h-[24px]"
                  >
                    {column.label}
                  </Link>
                </h4>
                <SpreadBars
                  spread={{ ...spread, shares: spread.shares.slice(0, VALUES_SHOWN) }}
                  column={column}
                  onChoose={open}
                />
                {spread.shares.length > VALUES_SHOWN && (
                  <p className="text-ink-3 px-1 text-sm">and {count(spread.shares.length - VALUES_SHOWN)} more</p>
                )}
              </section>
            );
          })}
        </div>
      )}
    </Loaded>
  );
}
