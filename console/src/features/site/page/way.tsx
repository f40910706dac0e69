/** The shortest way of clicks from the start to a page. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { pages } from "../../../api/queries/runs";
import { place, plural } from "../../../lib/words";
import { Address } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { useSite } from "../context";

export function WayThere({ url, runId }: { url: string; runId: string }) {
  const { site } = useSite();
  const found = useQuery(pages.way(runId, url));
  return (
    <Loaded query={found} tall={4}>
      {(steps) =>
        steps.length === 0 ? (
          <p className="text-ink-3">No clicks lead here from the start page, or it is the start page itself.</p>
        ) : (
          <>
            <p className="mb-1.5">{plural(steps.length - 1, "step")} on the shortest way:</p>
            <ol>
              {steps.map((step, n) => (
                <li key={step.url} className="border-line-strong ml-1.5 border-l pb-2 pl-4 last:border-l-transparent">
                  {n > 0 && (
                    <span className="text-ink-3 block text-sm">
                      {step.text ? `by the link “${step.text}”` : "by a redirect, a frame or a link without text"}
                    </span>
                  )}
                  <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(step.url)}`}>
                    <Address text={place(step.url, site.host)} chars={80} />
                  </Link>{" "}
                  <span className="text-ink-2">{step.title}</span>
                </li>
              ))}
            </ol>
          </>
        )
      }
    </Loaded>
  );
}
