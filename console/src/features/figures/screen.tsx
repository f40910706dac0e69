/** Figures of a site that come from outside: search figures, visits, positions, links from other sites, and the tables and feeds they came in. */
import { useNavigate } from "react-router";
import { useMay } from "../../api/hooks";
import { useAddress } from "../../lib/address";
import { Segments } from "../../ui/controls";
import { useSite } from "../site/context";
import { Backlinks } from "./backlinks";
import { Positions } from "./positions";
import { SearchFigures } from "./search";
import { Tables } from "./tables";
import { Visits } from "./visits";

const SHOWN = ["search", "visits", "positions", "links", "tables"] as const;
type Shown = (typeof SHOWN)[number];

export function FiguresScreen() {
  const { site } = useSite();
  const may = useMay();
  const go = useNavigate();
  const [view] = useAddress();
  const asked = SHOWN.find((name) => name === view.get("show")) ?? "search";
  const shown: Shown = asked === "tables" && !may("list_figure_files") ? "search" : asked;
  return (
    <>
      <div className="mb-3.5">
        <Segments
          label="Figures of"
          value={shown}
          // What narrows one list means nothing to another.
          onChange={(name) => void go(name === "search" ? "?" : `?show=${name}`, { replace: true })}
          choices={[
            { value: "search", label: "Search" },
            { value: "visits", label: "Visits" },
            { value: "positions", label: "Positions" },
            { value: "links", label: "Links from other sites" },
            ...(may("list_figure_files") ? [{ value: "tables" as const, label: "What there is" }] : []),
          ]}
        />
      </div>
      {shown === "search" && <SearchFigures key={site.id} site={site} />}
      {shown === "visits" && <Visits key={site.id} site={site} />}
      {shown === "positions" && <Positions key={site.id} site={site} />}
      {shown === "links" && <Backlinks key={site.id} site={site} />}
      {shown === "tables" && <Tables key={site.id} site={site} />}
    </>
  );
}
