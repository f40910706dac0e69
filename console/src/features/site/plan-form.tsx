import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { plans, profiles } from "../../api/queries/sites";
import type { Plan, PlanSetting, PlanValues, PreviewRow } from "../../api/types";
import { place, plural } from "../../lib/words";
import { controlClass, Labelled } from "../../ui/controls";
import { Field, type FieldKind, Form } from "../../ui/form";
import { ALL, Meanwhile, useSharedForm } from "../../ui/meanwhile";
import { Address, Button, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Unsaved } from "../../ui/unsaved";
import { Table } from "../../ui/table";
import { useSite } from "./context";
import { Judge } from "./judge";
import { addressesIn, type AddressList, type Entered, inWords, read, valueOf, writtenPlan } from "./settings";

type Values = Record<string, Entered>;
type Save = ReturnType<typeof useSave>;

const useSave = (siteId: number, version: number) => useChange(plans.change(siteId, version));

/** The whole plan, from the explanations that the service gives of each setting. */
export function PlanForm({ plan }: { plan: Plan }) {
  const { site } = useSite();
  const settings = useQuery(plans.settings());
  const save = useSave(site.id, plan.version);
  return (
    <Loaded query={settings} tall={12}>
      {(list) => <PlanFields plan={plan} settings={list} save={save} />}
    </Loaded>
  );
}

function PlanFields({ plan, settings, save }: { plan: Plan; settings: PlanSetting[]; save: Save }) {
  const may = useMay();
  const given: Values = Object.fromEntries(settings.map((s) => [s.name, read(s.kind, valueOf(plan.values, s.name))]));
  const { form, typed, begun, theirs } = useSharedForm(given);
  const changed = settings.filter((s) => typed.includes(s.name));
  const entered = () => writtenPlan(settings, form.getValues());
  const wrong = settings.find((s) => s.name === save.error?.field);
  const trouble = save.error && wrong ? save.error.about(wrong.name, wrong.label) : save.error;
  const entry = (s: PlanSetting) => <Entry key={s.name} setting={s} onChanged={() => s === wrong && save.reset()} />;
  return (
    <Form
      form={form}
      error={trouble}
      className=""
      onSend={(values) => save.mutate(entered(), { onSuccess: () => form.reset(values, ALL) })}
    >
      <Proposals plan={plan} />
      {[...new Map(settings.map((s) => [s.group, s.group_name]))].map(([group, name]) => {
        const inside = settings.filter((s) => s.group === group);
        const folded = inside.filter((s) => s.advanced);
        return (
          <fieldset key={group} className="border-line mb-3 border-t pt-2.5">
            <legend className="text-ink-2 pr-2 font-semibold">{name}</legend>
            <div className="grid gap-3 sm:grid-cols-2">{inside.filter((s) => !s.advanced).map(entry)}</div>
            {folded.length > 0 && (
              <Folded settings={folded} plan={plan} open={folded.some((s) => s === wrong)}>
                {folded.map(entry)}
              </Folded>
            )}
          </fieldset>
        );
      })}
      {plan.notices.map((notice) => (
        <p key={notice} className="bg-clay-soft my-2 rounded-md px-3 py-1.5">
          {notice}
        </p>
      ))}
      <Trial values={entered} />
      {may("examine_again") && <Judge values={entered} />}
      {may("change_plan") && (
        <div className="bg-surface border-line sticky bottom-0 -mx-3.5 mt-3 -mb-3 rounded-b-md border-t px-3.5 py-2.5">
          <Meanwhile
            what="this plan"
            changes={settings
              .filter((s) => theirs.includes(s.name))
              .map((s) => ({
                label: s.label,
                was: asText(begun[s.name]),
                now: asText(given[s.name]),
                own: changed.includes(s),
              }))}
            onTake={() => {
              form.reset(given, ALL);
              save.reset();
            }}
          />
          {trouble && wrong && (
            <div className="mb-2">
              <Trouble error={trouble} />
            </div>
          )}
          <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <Button main type="submit" disabled={save.isPending}>
              Save plan
            </Button>
            {changed.length > 0 ? (
              <span>
                {plural(changed.length, "setting")} changed, not saved yet.{" "}
                <LinkButton
                  onClick={() => {
                    form.reset(given, ALL);
                    save.reset();
                  }}
                >
                  Put back
                </LinkButton>
              </span>
            ) : (
              save.isSuccess && (
                <span role="status" className="text-good">
                  Saved. The next run uses it.
                </span>
              )
            )}
          </div>
        </div>
      )}
      <Unsaved
        dirty={changed.length > 0}
        what={`${plural(changed.length, "setting")} of this plan would be lost: ${changed.map((s) => s.label).join(", ")}.`}
      />
    </Form>
  );
}

const asText = (entered: Entered | undefined) =>
  typeof entered === "boolean" ? (entered ? "on" : "off") : (entered ?? "").replaceAll("\n", ", ");

/** What the last run suggests: parameters that look like session ids. */
function Proposals({ plan }: { plan: Plan }) {
  const { site } = useSite();
  const form = useFormContext<Values>();
  const dropped = String(useWatch({ control: form.control, name: "drop_parameters" }) ?? "");
  return plan.proposed_drops
    .filter((p) => !dropped.split("\n").includes(p.name))
    .map((p) => (
      <p key={p.name} className="border-line bg-sunk mb-3 rounded-md border px-3 py-2">
        <b>{p.name}</b> looks like a session id: {plural(p.addresses, "address")}, such as{" "}
        <Address text={place(p.example, site.host)} chars={60} />.{" "}
        <LinkButton
          onClick={() => form.setValue("drop_parameters", `${dropped}\n${p.name}`.trim(), { shouldDirty: true })}
        >
          Drop {p.name} from URLs
        </LinkButton>
      </p>
    ));
}

/** Advanced settings of a group, named so that they are found without unfolding. */
function Folded({
  settings,
  plan,
  open,
  children,
}: {
  settings: PlanSetting[];
  plan: Plan;
  open: boolean;
  children: ReactNode;
}) {
  const changed = (s: PlanSetting) =>
    JSON.stringify(valueOf(plan.values, s.name)) !== JSON.stringify(valueOf(plan.defaults, s.name));
  return (
    <details className="group mt-2" open={open || undefined}>
      <summary className="text-accent cursor-pointer">
        {plural(settings.length, "more setting")}
        <span className="text-ink-3 text-sm">
          {": "}
          {settings.map((s, i) => (
            <span key={s.name} className={changed(s) ? "text-ink font-semibold" : ""}>
              {i > 0 && ", "}
              {s.label}
              {changed(s) && " (set)"}
            </span>
          ))}
        </span>
      </summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">{children}</div>
    </details>
  );
}

const KINDS: Record<PlanSetting["kind"], FieldKind> = {
  switch: "tick",
  choice: "choice",
  number: "number",
  text: "text",
  lines: "long",
  pairs: "long",
  figures: "long",
  severities: "long",
  profile: "choice",
};
const NO_PROFILE = { value: "", label: "None (catalogue defaults)" };

function Entry({ setting, onChanged }: { setting: PlanSetting; onChanged: () => void }) {
  const form = useFormContext<Values>();
  const value = useWatch({ control: form.control, name: setting.name });
  const words = inWords(setting.unit, String(value));
  const kind = KINDS[setting.kind];
  const isProfile = setting.kind === "profile";
  const known = useQuery({ ...profiles.all(), enabled: isProfile }).data ?? [];
  const choices = isProfile
    ? [NO_PROFILE, ...known.map((p) => ({ value: p.name, label: p.name }))]
    : setting.choices.map((choice) => ({ value: choice, label: choice }));
  const [loaded, setLoaded] = useState<AddressList | null>(null);
  return (
    <div>
      <Field
        name={setting.name}
        label={setting.label + (words && ` (${words})`)}
        hint={
          isProfile ? (
            <>
              {setting.text}{" "}
              <Link to="/catalogue/profiles" className="underline">
                Profiles
              </Link>
            </>
          ) : setting.locked ? (
            `${setting.text} It is locked for you.`
          ) : (
            setting.text
          )
        }
        kind={kind}
        choices={choices}
        disabled={setting.locked}
        rows={2}
        mono={kind === "long"}
        onChanged={onChanged}
      />
      {setting.name === "addresses" && (
        <input
          type="file"
          accept=".txt,.csv"
          aria-label="Load from file"
          className="mt-1 text-sm"
          onChange={(e) =>
            void e.target.files?.[0]?.text().then((text) => {
              const list = addressesIn(text);
              setLoaded(list);
              form.setValue(setting.name, list.addresses.join("\n"), { shouldDirty: true });
            })
          }
        />
      )}
      {loaded && (
        <p role="status" className="mt-1 text-sm">
          {plural(loaded.addresses.length, "URL")} loaded. {loaded.unusable}
        </p>
      )}
    </div>
  );
}

/** What the plan as it stands in the form would do with sample addresses. */
function Trial({ values }: { values: () => PlanValues }) {
  const { site, run } = useSite();
  const [samples, setSamples] = useState("");
  const preview = useChange(plans.preview(site.id));
  const addresses = samples.split("\n").filter((line) => line.trim());
  const ready = addresses.length > 0 || run !== null;
  return (
    <fieldset className="border-line border-t pt-2.5">
      <legend className="text-ink-2 pr-2 font-semibold">Test the plan</legend>
      <Labelled
        label="Sample URLs"
        hint={`One per line; a path such as /basket will do. ${run ? "Empty: pages of the last run." : "There is no run yet to take them from."}`}
      >
        {(tied) => (
          <textarea
            {...tied}
            className={`${controlClass} font-mono text-sm`}
            rows={2}
            value={samples}
            onChange={(e) => setSamples(e.target.value)}
          />
        )}
      </Labelled>
      <Button
        className="mt-2"
        disabled={preview.isPending || !ready}
        onClick={() => preview.mutate({ values: values(), addresses })}
      >
        {addresses.length > 0 || !run ? "Try on these addresses" : "Try on pages of the last run"}
      </Button>
      {preview.error && (
        <div className="mt-2">
          <Trouble error={preview.error} />
        </div>
      )}
      {preview.data && <Preview rows={preview.data} host={site.host} />}
    </fieldset>
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
          rows={all ? rows : left}
          id={(r) => r.url}
          caption="Sample URLs"
          empty="All of them are crawled."
          columns={[
            { head: "URL", cell: (r) => <Address text={place(r.url, host)} chars={60} /> },
            { head: "Outcome", cell: (r) => (r.fetched ? "fetched" : r.why) },
          ]}
        />
      </div>
    </div>
  );
}
