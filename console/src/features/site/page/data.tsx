/** The structured data of a page as a tree, with what is wrong beside it. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { pages } from "../../../api/queries/runs";
import type { DataBlock, DataThing, Finding } from "../../../api/types";
import { Severity } from "../../../ui/signs";
import { Loaded } from "../../../ui/state";
import { useSite } from "../context";

export function PageDataTree({ url, runId }: { url: string; runId: string }) {
  const { site } = useSite();
  const found = useQuery(pages.data(runId, url));
  return (
    <Loaded query={found} tall={6}>
      {(data) => (
        <>
          {data.findings.length > 0 && (
            <ul className="mb-3 space-y-1" aria-label="Findings on structured data">
              {data.findings.map((row) => (
                <li key={row.id} className="flex items-start gap-2.5">
                  <Severity name={row.severity} />
                  <span className="min-w-0 break-words">
                    <Link to={`/sites/${site.id}/checks/${row.check}`}>{row.summary}</Link>: {row.message}
                  </span>
                </li>
              ))}
            </ul>
          )}
          {data.blocks.length === 0 && <p className="text-ink-3">The page has no structured data.</p>}
          {data.blocks.map((block) => (
            <section key={`${block.form} ${block.number}`} className="mb-3">
              <h3 className="mb-1 font-semibold">
                {block.form}
                {block.number > 0 && ` block ${block.number}`}
              </h3>
              {block.error && <p className="text-bad break-words">It cannot be read: {block.error}</p>}
              {block.things.map((thing, n) => (
                <Thing key={n} thing={thing} wrong={wrongIn(block, data.findings)} />
              ))}
            </section>
          ))}
        </>
      )}
    </Loaded>
  );
}

/** What findings say of properties, by type and property as their evidence names them. */
function wrongIn(block: DataBlock, findings: readonly Finding[]): (type: string, property: string) => string {
  const here = findings.filter((row) => !block.number || !row.evidence.block || row.evidence.block === block.number);
  return (type, property) =>
    here.find((row) => row.evidence.property === property && (!row.evidence.type || row.evidence.type === type))
      ?.message ?? "";
}

function Thing({
  thing,
  wrong,
  name = "",
}: {
  thing: DataThing;
  wrong: (type: string, property: string) => string;
  name?: string;
}) {
  const type = thing.types[0] ?? "";
  return (
    <div className="border-line-strong my-0.5 ml-1 border-l pl-3">
      <div>
        {name && <span className="text-ink-3">{name} </span>}
        <b className="font-semibold">{thing.types.join(", ") || "no type"}</b>
        {thing.id && <span className="text-ink-3 font-mono text-sm break-all"> {thing.id}</span>}
      </div>
      <dl className="grid grid-cols-[max-content_minmax(0,1fr)] gap-x-3">
        {thing.values.map((value, n) => {
          const said = wrong(type, value.property);
          return [
            <dt key={`p${n}`} className={said ? "text-bad" : "text-ink-3"}>
              {value.property}
            </dt>,
            <dd key={`v${n}`} className="min-w-0 break-words">
              {value.value || <i className="text-ink-3">empty</i>}
              {said && <span className="text-bad block text-sm">{said}</span>}
            </dd>,
          ];
        })}
      </dl>
      {thing.parts.map((part, n) => (
        <Thing key={n} thing={part.thing} wrong={wrong} name={part.property} />
      ))}
    </div>
  );
}
