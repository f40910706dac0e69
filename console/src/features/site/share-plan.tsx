import { useState } from "react";
import type { Plan, Site } from "../../api/client";
import { get } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { Button, Card, Field, Trouble } from "../../ui/parts";
import { useSite } from "./context";

/** A plan taken over from another site, or in and out as text. */
export function ShareCard() {
  const { site } = useSite();
  const sites = useRead<Site[]>("/sites");
  const [from, setFrom] = useState("");
  const [toml, setToml] = useState<string | null>(null);
  const copy = useChange<{ from_site: number }, Plan>("POST", `/sites/${site.id}/plan/copy`);
  const replace = useChange<{ toml: string }, Plan>("PUT", `/sites/${site.id}/plan/toml`);
  const error = copy.error ?? replace.error;
  return (
    <Card title="Take over or share the plan">
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <Field label="From another site" hint="All but its own addresses, path and host mapping">
            {(c) => (
              <select className={c} value={from} onChange={(e) => setFrom(e.target.value)}>
                <option value="">choose a site</option>
                {(sites.data ?? [])
                  .filter((s) => s.id !== site.id)
                  .map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.host}
                    </option>
                  ))}
              </select>
            )}
          </Field>
        </div>
        <Button
          disabled={!from || copy.isPending}
          onClick={() => {
            replace.reset();
            copy.mutate({ from_site: Number(from) });
          }}
        >
          Take over
        </Button>
      </div>
      {toml === null ? (
        <div className="mt-2">
          <Button
            onClick={() =>
              void get<{ toml: string }>(`/sites/${site.id}/plan/toml`).then((found) => setToml(found.toml))
            }
          >
            As text (TOML)
          </Button>
        </div>
      ) : (
        <div className="mt-3 space-y-2">
          <Field label="The plan as TOML" hint="Settings that are not named get their defaults">
            {(c) => (
              <textarea
                className={`${c} font-mono text-sm`}
                rows={8}
                value={toml}
                onChange={(e) => setToml(e.target.value)}
              />
            )}
          </Field>
          <div className="flex gap-2">
            <Button
              disabled={replace.isPending}
              onClick={() => {
                copy.reset();
                replace.mutate({ toml });
              }}
            >
              Replace the plan
            </Button>
            <Button onClick={() => setToml(null)}>Close</Button>
          </div>
        </div>
      )}
      {error && (
        <div className="mt-2">
          <Trouble error={error} />
        </div>
      )}
      {(copy.isSuccess || replace.isSuccess) && !error && (
        <p role="status" className="text-good mt-2">
          Done. The form beside shows the new plan.
        </p>
      )}
    </Card>
  );
}
