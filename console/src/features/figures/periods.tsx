/** What figures of two periods have in common: how long they are, what they come to, and whether a row rose or fell. */
import type { ReactNode } from "react";
import { count, day } from "../../lib/words";
import { Labelled, Select } from "../../ui/controls";
import { Card } from "../../ui/parts";

const WEEKS = [
  { value: "4", label: "4 weeks" },
  { value: "8", label: "8 weeks" },
  { value: "13", label: "13 weeks" },
  { value: "26", label: "26 weeks" },
];

/** The weeks that an address asks for; four where it asks for none that are shown. */
export const weeksIn = (view: URLSearchParams) =>
  Number(WEEKS.find((each) => each.value === view.get("weeks"))?.value ?? "4");

/** A head, with a minus for the most first, as the service names it; empty for one that nothing is sorted by. */
export function sortName(sorted: Record<string, string>, head: string): string {
  const name = sorted[head.replace(/^-/, "")];
  return name ? `${head.startsWith("-") ? "-" : ""}${name}` : "";
}

export function Weeks({ weeks, set }: { weeks: number; set: (name: string, value: string) => void }) {
  return (
    <div className="w-32">
      <Labelled label="Time">
        {(tied) => (
          <Select
            {...tied}
            value={String(weeks)}
            onChange={(value) => set("weeks", value === "4" ? "" : value)}
            choices={WEEKS}
          />
        )}
      </Labelled>
    </div>
  );
}

/** One of the names that figures have, or all of them; nothing where they have none. */
export function OneOf(props: {
  label: string;
  all: string;
  value: string;
  names: readonly string[];
  set: (value: string) => void;
}) {
  if (props.names.length === 0) return null;
  const choices = [{ value: "", label: props.all }, ...props.names.map((name) => ({ value: name, label: name }))];
  return (
    <div className="w-40">
      <Labelled label={props.label}>
        {(tied) => <Select {...tied} value={props.value} onChange={props.set} choices={choices} />}
      </Labelled>
    </div>
  );
}

type Period = {
  first?: string | null;
  last?: string | null;
  before_first?: string | null;
  before_last?: string | null;
  sources?: string[];
};

/** What a period comes to, beside the one before it. */
export function PeriodSums({
  found,
  figures,
  children,
}: {
  found: Period;
  figures: readonly { name: string; value: string; was: string }[];
  children: ReactNode;
}) {
  return (
    <Card
      className="mb-3.5"
      title={`${day(found.first)} to ${day(found.last)}`}
      aside={
        <>
          against {day(found.before_first)} to {day(found.before_last)}
          {(found.sources ?? []).length > 0 && ` · from ${(found.sources ?? []).join(", ")}`}
        </>
      }
    >
      <dl className="mb-2 flex flex-wrap gap-x-8 gap-y-2">
        {figures.map((each) => (
          <div key={each.name}>
            <dt className="text-ink-3 text-sm">{each.name}</dt>
            <dd className="tabular-nums">
              <span className="text-lg font-semibold">{each.value}</span>{" "}
              <span className="text-ink-3 text-sm">before {each.was}</span>
            </dd>
          </div>
        ))}
      </dl>
      {children}
    </Card>
  );
}

const MOVED: Record<string, { sign: string; words: string; tone: string }> = {
  rose: { sign: "▲", words: "rose", tone: "text-good" },
  fell: { sign: "▼", words: "fell", tone: "text-bad" },
  steady: { sign: "", words: "no clear change", tone: "text-ink-3" },
};

/** How a figure differs from before, and whether that is more than days differ anyway. */
export function Moved({
  now,
  before,
  movement,
  noun,
}: {
  now: number;
  before: number;
  movement?: string;
  noun: string;
}) {
  const moved = MOVED[movement ?? ""];
  const less = now - before;
  return (
    <span className="whitespace-nowrap">
      <span className="tabular-nums">{less > 0 ? `+${count(less)}` : less < 0 ? `−${count(-less)}` : "0"}</span>{" "}
      <span className={`text-sm ${moved?.tone ?? "text-ink-3"}`}>
        {moved?.sign} {moved?.words ?? `too few ${noun}`}
      </span>
    </span>
  );
}
