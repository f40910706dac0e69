/** Two people at one record: what is typed stays, and what somebody else changed meanwhile is told before it is replaced. */
import { useState } from "react";
import { type DefaultValues, type FieldValues, useForm, type UseFormReturn } from "react-hook-form";
import { LinkButton } from "./parts";

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
/** For a reset that also forgets what was typed: without it, what was typed stays. */
export const ALL = { keepDirtyValues: false };

/** What differs from when one began to change something; `own`: one has changed it too. */
export type Difference = { label: string; was?: string; now?: string; own?: boolean };

/** A form over a record that others may change: fields that nobody typed into follow it, `theirs` are those that somebody else changed meanwhile. */
export function useSharedForm<V extends FieldValues>(
  given: V,
): { form: UseFormReturn<V>; typed: (keyof V)[]; begun: V; theirs: (keyof V)[] } {
  const form = useForm<V>({
    values: given,
    defaultValues: given as DefaultValues<V>,
    resetOptions: { keepDirtyValues: true },
  });
  const dirty = form.formState.dirtyFields as Partial<Record<keyof V, unknown>>;
  const typed = Object.keys(given).filter((name) => dirty[name]);
  const [begun, setBegun] = useState(given);
  if (typed.length === 0 && !same(begun, given)) setBegun(given);
  return { form, typed, begun, theirs: Object.keys(given).filter((name) => !same(begun[name], given[name])) };
}

const LONGEST = 120;
const brief = (text: string) => (text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text || "nothing");

export function Meanwhile({
  what,
  changes,
  onTake,
}: {
  what: string;
  changes: readonly Difference[];
  onTake: () => void;
}) {
  if (changes.length === 0) return null;
  return (
    <div role="alert" className="border-bad bg-sunk my-2 space-y-1.5 border-l-2 px-3 py-1.5">
      <p>Somebody has changed {what} since you began:</p>
      <ul className="space-y-0.5">
        {changes.map(({ label, was, now, own }) => (
          <li key={label} className="wrap-anywhere">
            <b className="font-semibold">{label}</b>
            {was !== undefined && now !== undefined && ` from ${brief(was)} to ${brief(now)}`}
            {own && "; saving replaces it with yours"}
          </li>
        ))}
      </ul>
      <p>
        Saving keeps the rest of theirs. <LinkButton onClick={onTake}>Take theirs and drop mine</LinkButton>
      </p>
    </div>
  );
}
