import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { profiles } from "../../api/queries/sites";
import { catalogue } from "../../api/queries/work";
import type { CatalogueEntry, Profile } from "../../api/types";
import { holds, plural } from "../../lib/words";
import { controlClass, Labelled, SearchInput, Select, Tick } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Meanwhile } from "../../ui/meanwhile";
import { Button, Card, Chip, Heading, LinkButton, Title } from "../../ui/parts";
import { SEVERITIES } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { Unsaved } from "../../ui/unsaved";
import { changes, differenceOf, type Draft, draftOf, isChanged, rebased, switched, written, wrong } from "./draft";
import { inBrief } from "./profiles";

export function ProfileScreen() {
  const id = Number(useParams().profileId);
  const all = useQuery(profiles.all());
  const entries = useQuery(catalogue.all());
  return (
    <Loaded query={all} tall={14}>
      {(rows) => {
        const found = rows.find((row) => row.id === id);
        if (!found)
          return (
            <p>
              There is no such profile; it may have been removed. See <Link to="/catalogue/profiles">all profiles</Link>
              .
            </p>
          );
        return (
          <Loaded query={entries} tall={14}>
            {(checks) => <Editor key={found.id} profile={found} checks={checks} />}
          </Loaded>
        );
      }}
    </Loaded>
  );
}

function Editor({ profile, checks }: { profile: Profile; checks: CatalogueEntry[] }) {
  const may = useMay();
  const say = useSay();
  const given = draftOf(profile);
  const [draft, setDraft] = useState(given);
  const [begun, setBegun] = useState(given);
  const [seen, setSeen] = useState(profile);
  const [typed, setTyped] = useState("");
  const [changedOnly, setChangedOnly] = useState(false);
  const save = useChange(profiles.change(profile));
  if (seen.version !== profile.version) {
    setSeen(profile);
    setDraft(rebased(draft, draftOf(seen), given));
  }
  const own = changes(given, draft);
  const dirty = own.length > 0;
  const theirs = changes(begun, given);
  if (!dirty && theirs.length > 0) setBegun(given);
  const problem = wrong(draft);
  const shown = checks.filter(
    (c) => holds(typed, c.summary, c.id, ...(c.terms ?? [])) && (!changedOnly || isChanged(draft, c)),
  );
  const areas = [...new Map(checks.map((c) => [c.area, c.area_name]))];
  const open = typed !== "" || changedOnly;
  return (
    <>
      <Title of={[profile.name, "Profiles"]} />
      <Heading over={<Link to="/catalogue/profiles">Profiles</Link>} title={profile.name}>
        {may("remove_profile") && <Remove profile={profile} />}
      </Heading>
      <p className="text-ink-3">
        {profile.sites.length === 0
          ? "No site uses it yet. Choose it in a site’s plan."
          : `Used by ${profile.sites.map((s) => s.host).join(", ")}.`}{" "}
        Changes apply from the next run.
      </p>
      <Card className="mt-3.5">
        <div className="grid gap-3 sm:grid-cols-2">
          <Labelled label="Name">
            {(tied) => (
              <input
                {...tied}
                className={controlClass}
                maxLength={100}
                value={draft.name}
                onChange={(e) => setDraft({ ...draft, name: e.target.value })}
              />
            )}
          </Labelled>
          <Labelled label="What it is for">
            {(tied) => (
              <input
                {...tied}
                className={controlClass}
                maxLength={2000}
                value={draft.note}
                onChange={(e) => setDraft({ ...draft, note: e.target.value })}
              />
            )}
          </Labelled>
        </div>
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <div className="min-w-56 flex-1">
            <SearchInput label="Search checks" value={typed} onChange={setTyped} />
          </div>
          <Chip on={changedOnly} onClick={() => setChangedOnly(!changedOnly)}>
            changed only
          </Chip>
          <span className="text-ink-3 text-sm">{inBrief(written(draft))}</span>
        </div>
        <div className="mt-2">
          {areas.map(([area, name]) => {
            const inside = shown.filter((c) => c.area === area);
            if (inside.length === 0) return null;
            const whole = checks.filter((c) => c.area === area);
            return (
              <Area
                key={`${area}.${open}`}
                name={name}
                inside={inside}
                whole={whole}
                draft={draft}
                open={open}
                onChange={(next) => {
                  setDraft(next);
                  save.reset();
                }}
              />
            );
          })}
          {shown.length === 0 && (
            <p className="text-ink-3 py-2">
              {changedOnly && !typed ? "Nothing is changed yet." : `No check has “${typed}” in its title, id or terms.`}
            </p>
          )}
        </div>
        {may("change_profile") && (
          <div className="bg-surface border-line sticky bottom-0 -mx-3.5 mt-3 -mb-3 rounded-b-md border-t px-3.5 py-2.5">
            <Meanwhile
              what="this profile"
              changes={theirs.map((each) => differenceOf(each, checks, own))}
              onTake={() => {
                setDraft(given);
                save.reset();
              }}
            />
            {save.error && (
              <div className="mb-2">
                <Trouble error={save.error} />
              </div>
            )}
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <Button
                main
                disabled={save.isPending || !dirty || problem !== ""}
                onClick={() => save.mutate(written(draft), { onSuccess: () => say("The profile is saved.") })}
              >
                Save profile
              </Button>
              {dirty && (
                <span>
                  {problem && <span className="text-bad">{problem} </span>}
                  {plural(own.length, "change")} not saved yet.{" "}
                  <LinkButton
                    onClick={() => {
                      setDraft(given);
                      save.reset();
                    }}
                  >
                    Put back
                  </LinkButton>
                </span>
              )}
            </div>
          </div>
        )}
      </Card>
      <Unsaved dirty={dirty} what={`${plural(own.length, "change")} of this profile would be lost.`} />
    </>
  );
}

type Changing = { draft: Draft; onChange: (draft: Draft) => void };

/** The checks of an area. They are drawn when it is opened: all of them at once are some thousand fields. */
function Area({
  name,
  inside,
  whole,
  draft,
  open,
  onChange,
}: Changing & { name: string; inside: CatalogueEntry[]; whole: CatalogueEntry[]; open: boolean }) {
  const [shown, setShown] = useState(open);
  const on = whole.filter((c) => !draft.off.includes(c.id)).length;
  const changed = whole.filter((c) => isChanged(draft, c)).length;
  return (
    <details
      open={shown}
      onToggle={(e) => setShown(e.currentTarget.open)}
      className="border-line border-b last:border-b-0"
    >
      <summary className="flex cursor-pointer flex-wrap items-baseline gap-x-3 py-1.5">
        <span aria-hidden="true" className="text-ink-3 w-3">
          {shown ? "▾" : "▸"}
        </span>
        <b className="font-semibold">{name}</b>
        <span className="text-ink-3 text-sm">
          {on === whole.length ? plural(whole.length, "check") : `${on} of ${plural(whole.length, "check")} on`}
          {changed > 0 && ` · ${changed} changed`}
        </span>
      </summary>
      {shown && (
        <div className="pb-2">
          <div className="flex gap-3 pb-1 text-sm [&>button]:min-h-[24px]">
            <LinkButton disabled={on === whole.length} onClick={() => onChange(switched(draft, whole, true))}>
              Switch all on
            </LinkButton>
            <LinkButton disabled={on === 0} onClick={() => onChange(switched(draft, whole, false))}>
              Switch all off
            </LinkButton>
          </div>
          {inside.map((check) => (
            <CheckRow key={check.id} check={check} draft={draft} onChange={onChange} />
          ))}
        </div>
      )}
    </details>
  );
}

function CheckRow({ check, draft, onChange }: Changing & { check: CatalogueEntry }) {
  const off = draft.off.includes(check.id);
  const change = draft.severities[check.id];
  const say = (chosen: string, reason: string) => {
    const others = Object.fromEntries(Object.entries(draft.severities).filter(([id]) => id !== check.id));
    const severity = SEVERITIES.find((name) => name === chosen) ?? check.severity;
    const usual = severity === check.severity;
    onChange({ ...draft, severities: usual ? others : { ...others, [check.id]: { severity, reason } } });
  };
  return (
    <div className="border-line grid items-start gap-x-3 gap-y-1 border-t py-1.5 md:grid-cols-[1.5rem_minmax(0,1fr)_10.5rem_minmax(0,18rem)]">
      <Tick
        checked={!off}
        label={`Examine: ${check.summary}`}
        onChange={(on) => onChange(switched(draft, [check], on))}
      />
      <div className={off ? "text-ink-3 line-through" : ""}>
        {check.summary} <span className="text-ink-3 font-mono text-sm no-underline">{check.id}</span>
      </div>
      <Select
        aria-label={`Severity of ${check.id}`}
        disabled={off}
        value={change?.severity ?? check.severity}
        onChange={(severity) => say(severity, change?.reason ?? "")}
        choices={SEVERITIES.map((name) => ({
          value: name,
          label: name === check.severity ? `${name} (default)` : name,
        }))}
      />
      <div className="space-y-1">
        {Object.entries(check.limits).map(([name, limit]) => (
          <label key={name} className="flex items-center gap-2 text-sm">
            <input
              className={`${controlClass} !w-24`}
              inputMode="decimal"
              disabled={off}
              placeholder={String(limit.default)}
              aria-label={`${limit.meaning} (${name}, default ${limit.default} ${limit.unit})`}
              value={draft.limits[name] ?? ""}
              onChange={(e) => onChange({ ...draft, limits: { ...draft.limits, [name]: e.target.value } })}
            />
            <span className="text-ink-3 min-w-0">
              {limit.unit}: {limit.meaning}
            </span>
          </label>
        ))}
      </div>
      {change && (
        <input
          className={`${controlClass} md:col-span-3 md:col-start-2`}
          aria-label={`Reason for the severity of ${check.id}`}
          placeholder={`Why is it ${change.severity} here?`}
          maxLength={500}
          value={change.reason}
          onChange={(e) => say(change.severity, e.target.value)}
        />
      )}
    </div>
  );
}

function Remove({ profile }: { profile: Profile }) {
  const navigate = useNavigate();
  const say = useSay();
  const [asked, setAsked] = useState(false);
  const remove = useChange(profiles.remove(profile.id));
  return (
    <>
      <Button onClick={() => setAsked(true)}>Remove profile</Button>
      <Dialog
        open={asked}
        onOpenChange={setAsked}
        title={`Remove ${profile.name}?`}
        description="Runs that used it are kept as they are."
      >
        {remove.error && (
          <div className="mb-3">
            <Trouble error={remove.error} />
          </div>
        )}
        <div className="flex gap-2">
          <Button
            main
            disabled={remove.isPending}
            onClick={() =>
              remove.mutate(undefined, {
                onSuccess: () => {
                  say(`${profile.name} is removed.`);
                  void navigate("/catalogue/profiles");
                },
              })
            }
          >
            Remove profile
          </Button>
          <Button onClick={() => setAsked(false)}>Keep it</Button>
        </div>
      </Dialog>
    </>
  );
}
