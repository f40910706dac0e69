/** Figures of a site that come from outside: search figures, and the tables they came in. */
import { useMay } from "../../api/hooks";
import { useAddress } from "../../lib/address";
import { Segments } from "../../ui/controls";
import { useSite } from "../site/context";
import { SearchFigures } from "./search";
import { Tables } from "./tables";

export function FiguresScreen() {
  const { site } = useSite();
  const may = useMay();
  const [view, set] = useAddress();
  const shown = view.get("show") === "tables" && may("list_figure_files") ? "tables" : "search";
  return (
    <>
      {may("list_figure_files") && (
        <div className="mb-3.5">
          <Segments
            label="Figures"
            value={shown}
            onChange={(name) => set("show", name === "tables" ? name : "")}
            choices={[
              { value: "search", label: "Search" },
              { value: "tables", label: "What there is" },
            ]}
          />
        </div>
      )}
      {shown === "tables" ? <Tables key={site.id} site={site} /> : <SearchFigures key={site.id} site={site} />}
    </>
  );
}
