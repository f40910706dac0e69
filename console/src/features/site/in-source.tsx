import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { findings } from "../../api/queries/runs";
import type { InSource as Place } from "../../api/types";
import { LinkButton } from "../../ui/parts";
import { Loaded } from "../../ui/state";

/** Where a finding stands in the source of its page, read when somebody wants to see it. */
export function InSource({ runId, fingerprint, open = false }: { runId: string; fingerprint: string; open?: boolean }) {
  const [shown, setShown] = useState(open);
  const found = useQuery({ ...findings.one(runId, fingerprint), enabled: shown });
  // What was opened by itself and has nothing to show is better not there.
  if (open && found.data?.source === null) return null;
  return (
    <div className={shown ? "text-sm" : "mr-3 inline-block text-sm"}>
      <LinkButton aria-expanded={shown} onClick={() => setShown(!shown)}>
        {shown ? "Hide source" : "Show source"}
      </LinkButton>
      {shown && (
        <Loaded query={found} tall={2}>
          {(data) =>
            data.source ? (
              <Source source={data.source} />
            ) : (
              <p className="text-ink-3">This finding is about the whole page, so there is no element to show.</p>
            )
          }
        </Loaded>
      )}
    </div>
  );
}

/** The element as it is written, and with the fix where that can be shown. */
export function Source({ source }: { source: Place }) {
  return (
    <div className="mt-0.5 space-y-1 text-sm">
      {(source.line > 0 || source.selector) && (
        <p className="text-ink-3">
          {source.line > 0 && `Line ${source.line.toLocaleString("en-GB")}`}
          {source.line > 0 && (source.document === "page" ? `, column ${source.column} ` : ` of ${source.document}`)}
          {source.selector && <code className="font-mono break-all">{source.selector}</code>}
        </p>
      )}
      {source.before && <Code label={source.after ? "before" : ""} code={source.before} />}
      {source.after && <Code label={source.before ? "after" : "add"} code={source.after} good />}
    </div>
  );
}

function Code({ label, code, good = false }: { label: string; code: string; good?: boolean }) {
  return (
    <div className="flex gap-2">
      {label && <span className="text-ink-3 w-12 shrink-0">{label}</span>}
      <code
        className={`bg-sunk border-l-2 px-2 py-0.5 font-mono wrap-anywhere whitespace-pre-wrap ${good ? "border-good" : "border-line-strong"}`}
      >
        {code}
      </code>
    </div>
  );
}
