/** A profile while it is edited: limits are what was typed. */
import type { CatalogueEntry, Profile, ProfileChange } from "../../api/types";
import type { Difference } from "../../ui/meanwhile";

export type Draft = {
  name: string;
  note: string;
  off: string[];
  limits: Record<string, string>;
  severities: Profile["severities"];
};

export const draftOf = (profile: Profile): Draft => ({
  name: profile.name,
  note: profile.note,
  off: [...profile.checks_off].sort(),
  limits: Object.fromEntries(Object.entries(profile.thresholds).map(([name, figure]) => [name, String(figure)])),
  severities: profile.severities,
});

/** What is sent, once every limit is a figure. */
export function written(draft: Draft): ProfileChange & Pick<Profile, "checks_off" | "thresholds" | "severities"> {
  const limits = Object.entries(draft.limits).filter(([, typed]) => typed.trim() !== "");
  return {
    name: draft.name,
    note: draft.note,
    checks_off: draft.off,
    thresholds: Object.fromEntries(limits.map(([name, typed]) => [name, Number(typed)])),
    severities: draft.severities,
  };
}

/** What is wrong with a draft before it can be sent, in words; empty when nothing is. */
export function wrong(draft: Draft): string {
  if (!draft.name.trim()) return "Give the profile a name.";
  const limit = Object.entries(draft.limits).find(([, typed]) => Number.isNaN(Number(typed)));
  if (limit) return `“${limit[1]}” is no figure; ${limit[0]} needs one.`;
  const unsaid = Object.keys(draft.severities).find((id) => !draft.severities[id]?.reason.trim());
  return unsaid ? `Say why ${unsaid} has another severity.` : "";
}

export function switched(draft: Draft, checks: readonly CatalogueEntry[], on: boolean): Draft {
  const others = draft.off.filter((id) => !checks.some((c) => c.id === id));
  return { ...draft, off: on ? others : [...others, ...checks.map((c) => c.id)].sort() };
}

/** Whether a draft says anything of a check that the catalogue does not. */
export const isChanged = (draft: Draft, check: CatalogueEntry): boolean =>
  draft.off.includes(check.id) ||
  check.id in draft.severities ||
  Object.keys(check.limits).some((name) => (draft.limits[name] ?? "").trim() !== "");

type Said = "text" | "off" | "limit" | "severity";
/** One thing that a draft says: a text of the profile, or what it makes of one check or limit. */
export type Change = { kind: Said; name: string; was: unknown; now: unknown };

const tables = (draft: Draft): Record<Said, Record<string, unknown>> => ({
  text: { name: draft.name, note: draft.note },
  off: Object.fromEntries(draft.off.map((id) => [id, true])),
  limit: draft.limits,
  severity: draft.severities,
});

/** In what two drafts differ. */
export function changes(before: Draft, after: Draft): Change[] {
  const [old, now] = [tables(before), tables(after)];
  return (Object.keys(old) as Said[]).flatMap((kind) =>
    [...new Set([...Object.keys(old[kind]), ...Object.keys(now[kind])])]
      .map((name) => ({ kind, name, was: old[kind][name], now: now[kind][name] }))
      .filter((each) => JSON.stringify(each.was ?? "") !== JSON.stringify(each.now ?? "")),
  );
}

/** A change in words; `own` are those that one has made oneself. */
export function differenceOf(change: Change, checks: readonly CatalogueEntry[], own: readonly Change[]): Difference {
  const { kind, name, was, now } = change;
  const title = checks.find((c) => c.id === name)?.summary ?? name;
  const both = own.some((each) => each.kind === kind && each.name === name);
  const words = {
    text: { label: name === "name" ? "Name" : "What it is for", of: (value: unknown) => String(value) },
    off: { label: title, of: (value: unknown) => (value ? "off" : "on") },
    limit: { label: name, of: (value: unknown) => (value as string | undefined) ?? "the default" },
    severity: {
      label: `Severity of ${title}`,
      of: (value: unknown) => (value as { severity: string } | undefined)?.severity ?? "the default",
    },
  }[kind];
  return { label: words.label, was: words.of(was), now: words.of(now), own: both };
}

/** A draft that was begun over one state of a profile, over the state it is in now: what was not changed follows. */
export function rebased(draft: Draft, begun: Draft, now: Draft): Draft {
  const own = tables(now);
  for (const { kind, name, now: value } of changes(begun, draft)) own[kind][name] = value;
  const said = (kind: Said) => Object.entries(own[kind]).filter(([, value]) => value !== undefined);
  return {
    name: String(own.text.name),
    note: String(own.text.note),
    off: said("off")
      .map(([id]) => id)
      .sort(),
    limits: Object.fromEntries(said("limit")) as Draft["limits"],
    severities: Object.fromEntries(said("severity")) as Draft["severities"],
  };
}
