/** The source of a page as it was sent, with findings and HTML errors at their lines. */
import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef, useState } from "react";
import { pages } from "../../../api/queries/runs";
import type { PageSource } from "../../../api/types";
import { count, plural } from "../../../lib/words";
import { LinkButton } from "../../../ui/parts";
import { Severity, type SeverityName } from "../../../ui/signs";
import { Loaded } from "../../../ui/state";

export function ShownSource({ url, runId }: { url: string; runId: string }) {
  const found = useQuery(pages.source(runId, url));
  return (
    <Loaded query={found} tall={14}>
      {(source) => <Marked source={source} />}
    </Loaded>
  );
}

type Mark = { line: number; severity: SeverityName | null; title: string; text: string };

function Marked({ source }: { source: PageSource }) {
  const lines = useMemo(() => source.text.split(/\r\n|\r|\n/), [source.text]);
  const [errors, setErrors] = useState(false);
  const marks: Mark[] = [
    ...source.findings.map((row) => ({
      line: row.source?.line ?? 0,
      severity: row.severity,
      title: row.summary,
      text: row.message,
    })),
    ...(errors ? source.errors.map((e) => ({ line: e.line, severity: null, title: e.problem, text: e.remedy })) : []),
  ].sort((a, b) => a.line - b.line);
  const byLine = new Map<number, Mark[]>();
  for (const mark of marks) byLine.set(mark.line, [...(byLine.get(mark.line) ?? []), mark]);
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is read only in this component
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 20,
    overscan: 20,
  });
  return (
    <>
      <p className="mb-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        <span>
          {plural(lines.length, "line")}, {plural(source.findings.length, "finding")} at a line
          {!source.whole && "; the source is longer, this is its beginning"}
        </span>
        {source.errors.length > 0 ? (
          <LinkButton aria-pressed={errors} onClick={() => setErrors(!errors)}>
            {errors ? "Hide" : "Show"} {plural(source.errors.length, "HTML error")}
          </LinkButton>
        ) : (
          <span className="text-ink-3">The HTML keeps the rules of parsing.</span>
        )}
      </p>
      {marks.length > 0 && (
        <ul className="mb-2 max-h-40 overflow-y-auto text-sm" tabIndex={0} aria-label="Places in the source">
          {marks.map((mark, n) => (
            <li key={n} className="flex items-baseline gap-2">
              <LinkButton
                className="min-h-[24px]"
                onClick={() => virtual.scrollToIndex(mark.line - 1, { align: "center" })}
              >
                line {count(mark.line)}
              </LinkButton>
              <span className="min-w-0 truncate" title={`${mark.title}: ${mark.text}`}>
                {mark.title}
                <span className="text-ink-3">: {mark.text}</span>
              </span>
            </li>
          ))}
        </ul>
      )}
      <div
        ref={box}
        tabIndex={0}
        role="region"
        aria-label="Source of the page"
        className="border-line bg-paper h-112 overflow-auto rounded-md border font-mono text-sm"
      >
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const here = byLine.get(item.index + 1) ?? [];
            return (
              <div
                key={item.key}
                ref={virtual.measureElement}
                data-index={item.index}
                className={`absolute top-0 left-0 w-full ${here.length ? "bg-clay-soft" : ""}`}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                <div className="flex">
                  <span className="text-ink-3 w-14 shrink-0 pr-3 text-right select-none">{item.index + 1}</span>
                  <code className="min-w-0 pr-3 wrap-anywhere whitespace-pre-wrap">{lines[item.index]}</code>
                </div>
                {here.map((mark, n) => (
                  <p key={n} className="flex gap-2 pb-0.5 pl-14 font-sans">
                    {mark.severity && <Severity name={mark.severity} bare />}
                    <span className="min-w-0 break-words">
                      <b className="font-semibold">{mark.title}.</b> {mark.text}
                    </span>
                  </p>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}
