import { Link } from "react-router";
import type { CatalogueEntry } from "../../api/types";

/** What became of a check that is not run any more. */
export function Retired({ id, retired }: { id: string; retired: NonNullable<CatalogueEntry["retired"]> }) {
  return (
    <p role="note" className="bg-clay-soft mb-3 rounded-md px-3 py-1.5">
      <span className="font-mono text-sm">{id}</span> was retired with {retired.since}. {retired.reason}
      {retired.instead.length > 0 && (
        <>
          {" "}
          Look at{" "}
          {retired.instead.map((other, i) => (
            <span key={other}>
              {i > 0 && ", "}
              <Link to={`/catalogue#${other}`}>{other}</Link>
            </span>
          ))}{" "}
          instead.
        </>
      )}
    </p>
  );
}
