/** A profile while it is edited: limits are what was typed. */
import type { CatalogueEntry, Profile, ProfileChange } from "../../api/types";

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

/** In how many things two drafts differ. */
export function changes(before: Draft, after: Draft): number {
  const tables: [object, object][] = [
    [before.limits, after.limits],
    [before.severities, after.severities],
    [Object.fromEntries(before.off.map((id) => [id, true])), Object.fromEntries(after.off.map((id) => [id, true]))],
    [
      { name: before.name, note: before.note },
      { name: after.name, note: after.note },
    ],
  ];
  let count = 0;
  for (const [old, now] of tables)
    for (const key of new Set([...Object.keys(old), ...Object.keys(now)]))
      if (JSON.stringify(Reflect.get(old, key) ?? "") !== JSON.stringify(Reflect.get(now, key) ?? "")) count += 1;
  return count;
}
