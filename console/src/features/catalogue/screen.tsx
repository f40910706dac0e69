import { useSearchParams } from "react-router";
import type { CatalogueEntry } from "../../api/client";
import { useRead } from "../../api/hooks";
import { Card, Chip, Heading, Loaded } from "../../ui/parts";
import { Severity } from "../../ui/signs";

export function CatalogueScreen() {
  const entries = useRead<CatalogueEntry[]>("/catalogue");
  const [view, setView] = useSearchParams();
  const area = view.get("area") ?? "";
  return (
    <>
      <Heading title="Catalogue" />
      <p className="text-ink-3">What is checked, why it matters, and how to fix it.</p>
      <Loaded query={entries} tall={14}>
        {(rows) => (
          <>
            <div className="mt-3 flex flex-wrap gap-1.5">
              <Chip on={!area} onClick={() => setView({}, { replace: true })}>
                all {rows.length}
              </Chip>
              {[...new Map(rows.map((r) => [r.area, r.area_name]))].map(([id, name]) => (
                <Chip key={id} on={area === id} onClick={() => setView({ area: id }, { replace: true })}>
                  {name}
                </Chip>
              ))}
            </div>
            <Card className="mt-3.5">
              {rows
                .filter((r) => !area || r.area === area)
                .map((r) => (
                  <details key={r.id} className="border-line border-b py-1.5 last:border-b-0">
                    <summary className="flex cursor-pointer flex-wrap items-center gap-x-3">
                      <span className="w-20">
                        <Severity name={r.severity} />
                      </span>
                      <b className="font-semibold">{r.summary}</b>
                      <span className="text-ink-3 font-mono text-sm">{r.id}</span>
                    </summary>
                    <div className="max-w-3xl space-y-1.5 py-2 pl-23">
                      <p>{r.why}</p>
                      <p>
                        <b className="font-semibold">How to fix it:</b> {r.fix}
                      </p>
                      <p className="text-ink-3 text-sm">
                        Looks at: {r.subject} · {r.effort} effort · rests on {r.standard}
                      </p>
                      {Object.entries(r.limits).map(([name, k]) => (
                        <p key={name} className="text-ink-3 text-sm">
                          <span className="font-mono">{name}</span> = {k.default.toLocaleString("en-GB")} {k.unit}:{" "}
                          {k.meaning}
                        </p>
                      ))}
                    </div>
                  </details>
                ))}
            </Card>
          </>
        )}
      </Loaded>
    </>
  );
}
