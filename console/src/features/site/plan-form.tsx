import { useState } from "react";
import type { Plan, PlanSetting, PreviewRow } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { place, plural } from "../../lib/words";
import { Address, Button, Field, LinkButton, Loaded, Table, Trouble } from "../../ui/parts";
import { useSite } from "./context";
import { addressesIn, read, write, type Entered } from "./settings";

/** The whole plan, from the explanations that the service gives of each setting. */
export function PlanForm({ plan }: { plan: Plan }) {
  const settings = useRead<PlanSetting[]>("/plan-settings");
  return (
    <Loaded query={settings} tall={12}>
      {(list) => <Form plan={plan} settings={list} />}
    </Loaded>
  );
}

function Form({ plan, settings }: { plan: Plan; settings: PlanSetting[] }) {
  const { site } = useSite();
  const given = plan.values as Record<string, unknown>;
  const [values, setValues] = useState<Record<string, Entered>>(() =>
    Object.fromEntries(settings.map((s) => [s.name, read(s.kind, given[s.name])])),
  );
  const save = useChange<{ values: Record<string, unknown> }>("PATCH", `/sites/${site.id}/plan`, plan.version);
  const preview = useChange<{ values: Record<string, unknown> }, PreviewRow[]>(
    "POST",
    `/sites/${site.id}/plan/preview`,
  );
  const entered = () => Object.fromEntries(settings.map((s) => [s.name, write(s.kind, values[s.name] ?? "")]));
  const groups = [...new Map(settings.map((s) => [s.group, s.group_name]))];
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate({ values: entered() });
      }}
    >
      {plan.proposed_drops
        .filter((p) => !String(values.drop_parameters).split("\n").includes(p.name))
        .map((p) => (
          <p key={p.name} className="border-line bg-sunk mb-3 rounded border px-3 py-2">
            <b>{p.name}</b> looks like a session id: {plural(p.addresses, "address")}, such as{" "}
            <Address text={place(p.example, site.host)} chars={60} />.{" "}
            <LinkButton
              onClick={() =>
                setValues({ ...values, drop_parameters: `${String(values.drop_parameters)}\n${p.name}`.trim() })
              }
            >
              Drop it from addresses
            </LinkButton>
          </p>
        ))}
      {groups.map(([group, name]) => {
        const inside = settings.filter((s) => s.group === group);
        const changed = inside.filter((s) => s.advanced && !same(given[s.name], plan.defaults[s.name])).length;
        const folded = inside.filter((s) => s.advanced);
        return (
          <fieldset key={group} className="border-line mb-3 border-t pt-2.5">
            <legend className="text-ink-2 pr-2 font-semibold">{name}</legend>
            <div className="grid gap-3 sm:grid-cols-2">
              {inside
                .filter((s) => !s.advanced)
                .map((s) => (
                  <Entry key={s.name} setting={s} values={values} setValues={setValues} />
                ))}
            </div>
            {folded.length > 0 && (
              <details className="mt-2">
                <summary className="text-accent cursor-pointer">
                  {plural(folded.length, "more setting")}
                  {changed > 0 && <span className="text-ink-3"> · {changed} changed</span>}
                </summary>
                <div className="mt-2 grid gap-3 sm:grid-cols-2">
                  {folded.map((s) => (
                    <Entry key={s.name} setting={s} values={values} setValues={setValues} />
                  ))}
                </div>
              </details>
            )}
          </fieldset>
        );
      })}
      {save.error && <Trouble error={save.error} />}
      {save.isSuccess && (
        <p role="status" className="text-good mb-2">
          Saved. The next run uses it.
        </p>
      )}
      <div className="flex gap-2">
        <Button main type="submit" disabled={save.isPending}>
          Save the plan
        </Button>
        <Button disabled={preview.isPending} onClick={() => preview.mutate({ values: entered() })}>
          Try on pages of the last run
        </Button>
      </div>
      {preview.error && (
        <div className="mt-2">
          <Trouble error={preview.error} />
        </div>
      )}
      {preview.data && <Preview rows={preview.data} host={site.host} />}
    </form>
  );
}

function same(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

function Entry({
  setting,
  values,
  setValues,
}: {
  setting: PlanSetting;
  values: Record<string, Entered>;
  setValues: (values: Record<string, Entered>) => void;
}) {
  const value = values[setting.name];
  const set = (entered: Entered) => setValues({ ...values, [setting.name]: entered });
  return (
    <Field label={setting.label} hint={setting.text}>
      {(c) =>
        setting.kind === "switch" ? (
          <input type="checkbox" className="size-4" checked={Boolean(value)} onChange={(e) => set(e.target.checked)} />
        ) : setting.kind === "choice" ? (
          <select className={c} value={String(value)} onChange={(e) => set(e.target.value)}>
            {setting.choices.map((choice) => (
              <option key={choice}>{choice}</option>
            ))}
          </select>
        ) : setting.kind === "number" || setting.kind === "text" ? (
          <input
            className={c}
            type={setting.kind === "number" ? "number" : "text"}
            step="any"
            value={String(value)}
            onChange={(e) => set(e.target.value)}
          />
        ) : (
          <>
            <textarea
              className={`${c} font-mono text-sm`}
              rows={2}
              value={String(value)}
              onChange={(e) => set(e.target.value)}
            />
            {setting.name === "addresses" && (
              <input
                type="file"
                accept=".txt,.csv"
                aria-label="Take the list from a file"
                className="text-sm"
                onChange={(e) => void e.target.files?.[0]?.text().then((text) => set(addressesIn(text)))}
              />
            )}
          </>
        )
      }
    </Field>
  );
}

function Preview({ rows, host }: { rows: PreviewRow[]; host: string }) {
  const [all, setAll] = useState(false);
  const left = rows.filter((r) => !r.fetched);
  return (
    <div className="mt-3">
      <p role="status">
        {rows.length - left.length} of {plural(rows.length, "sample address")} would be fetched. Nothing is saved yet.{" "}
        <LinkButton onClick={() => setAll(!all)}>{all ? "only those left out" : "show all"}</LinkButton>
      </p>
      <div className="mt-2 max-h-80 overflow-y-auto">
        <Table
          rows={(all ? rows : left).slice(0, 200)}
          id={(r) => r.url}
          caption="Sample addresses"
          empty="None is left out."
          columns={[
            { head: "Address", cell: (r) => <Address text={place(r.url, host)} chars={60} /> },
            { head: "Outcome", cell: (r) => (r.fetched ? "fetched" : r.why) },
          ]}
        />
      </div>
    </div>
  );
}
