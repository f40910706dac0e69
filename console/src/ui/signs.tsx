/** The signs that are ours: severity as a stack of bricks, health as a course of bricks, change classes, small lines. */
import { points } from "../lib/words";

export type SeverityName = "critical" | "high" | "medium" | "low";
/** The worst first. */
export const SEVERITIES: readonly SeverityName[] = ["critical", "high", "medium", "low"];
export const severityRank = (name: SeverityName) => SEVERITIES.indexOf(name);
const LEVEL: Record<SeverityName, number> = { low: 1, medium: 2, high: 3, critical: 4 };

export function Severity({ name, bare = false }: { name: SeverityName; bare?: boolean }) {
  const rows = [0, 1, 2, 3].map((row) => {
    const on = row < LEVEL[name];
    const y = 12 - row * 3.6;
    const split = row % 2 ? 5.6 : 7.6;
    const paint = { fill: on ? `var(--${name})` : "none", stroke: on ? `var(--${name})` : "var(--line-strong)" };
    return (
      <g key={row} strokeWidth={0.7} {...paint}>
        <rect x={1} y={y} width={split - 1} height={2.4} />
        <rect x={split + 1.4} y={y} width={13.6 - split - 1.4} height={2.4} />
      </g>
    );
  });
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg width={15} height={16} viewBox="0 0 15 16" aria-hidden="true">
        {rows}
      </svg>
      <span className={bare ? "sr-only" : ""}>{name}</span>
    </span>
  );
}

export function Course({
  health,
  brick = 9,
  height = 12,
}: {
  health: number | null | undefined;
  brick?: number;
  height?: number;
}) {
  const value = health ?? 0;
  return (
    <svg
      width={20 * (brick + 2) - 2}
      height={height}
      role="img"
      aria-label={health === null || health === undefined ? "no health" : `health ${points(health)} of 100`}
      className="max-w-full"
    >
      {Array.from({ length: 20 }, (_, i) => {
        const filled = Math.max(0, Math.min(1, value / 5 - i));
        return (
          <g key={i}>
            <rect x={i * (brick + 2)} width={brick} height={height} fill="var(--sunk)" />
            {filled > 0 && <rect x={i * (brick + 2)} width={brick * filled} height={height} fill="var(--accent)" />}
          </g>
        );
      })}
    </svg>
  );
}

/** A small line over runs. `marks` are dated notes: at which run's place each stands, between two runs a fraction. */
export function Line({
  values,
  marks = [],
  width = 110,
  height = 26,
  label,
}: {
  values: (number | null)[];
  marks?: { at: number; text: string }[];
  width?: number;
  height?: number;
  label: string;
}) {
  const known = values.filter((v): v is number => v !== null);
  if (known.length < 2) return <span className="text-ink-3 text-sm">too few runs</span>;
  const low = Math.min(...known) - 2;
  const high = Math.max(...known) + 2;
  const x = (i: number) => 3 + (i * (width - 6)) / (values.length - 1);
  const y = (v: number) => height - 3 - ((v - low) / (high - low)) * (height - 6);
  const segments: string[] = [""];
  values.forEach((v, i) => {
    if (v === null) segments.push("");
    else segments[segments.length - 1] += `${x(i)},${y(v)} `;
  });
  const last = values.length - 1;
  return (
    <svg width={width} height={height} role="img" aria-label={`${label}: ${known.map((v) => points(v)).join(", ")}`}>
      {marks.map((mark) => (
        <line
          key={`${mark.at} ${mark.text}`}
          x1={x(mark.at)}
          x2={x(mark.at)}
          y1={0}
          y2={height}
          stroke="var(--bad)"
          strokeWidth={1.2}
          strokeDasharray="3 3"
        >
          <title>{mark.text}</title>
        </line>
      ))}
      {segments.filter(Boolean).map((points) => (
        <polyline key={points} points={points} fill="none" stroke="var(--ink-2)" strokeWidth={1.4} />
      ))}
      {values[last] !== null && <circle cx={x(last)} cy={y(values[last] as number)} r={2.6} fill="var(--accent)" />}
    </svg>
  );
}

export type ChangeName =
  | "new"
  | "new-with-page"
  | "new-to-view"
  | "returned"
  | "fixed"
  | "gone-with-page"
  | "still-there"
  | "unverified"
  | "check-changed"
  | "waived"
  | "waiver-ended";
export const CHANGES: Record<ChangeName, { sign: string; words: string; tone: string }> = {
  new: { sign: "▲", words: "new", tone: "text-bad" },
  "new-with-page": { sign: "▲", words: "new with page", tone: "text-bad" },
  "new-to-view": { sign: "▲", words: "new to view", tone: "text-ink-2" },
  returned: { sign: "↺", words: "returned", tone: "text-bad" },
  fixed: { sign: "▼", words: "fixed", tone: "text-good" },
  "gone-with-page": { sign: "▽", words: "gone with page", tone: "text-ink-2" },
  "still-there": { sign: "■", words: "still there", tone: "text-ink-2" },
  unverified: { sign: "▨", words: "unverified", tone: "text-ink-3" },
  "check-changed": { sign: "◇", words: "check changed", tone: "text-ink-2" },
  waived: { sign: "·", words: "waived", tone: "text-ink-3" },
  "waiver-ended": { sign: "▲", words: "waiver ended", tone: "text-bad" },
};

export function Change({ name }: { name: ChangeName }) {
  const found = CHANGES[name];
  return (
    <span className={`whitespace-nowrap ${found.tone}`}>
      <span aria-hidden="true" className="inline-block w-5">
        {found.sign}
      </span>
      {found.words}
    </span>
  );
}

export function Bar({ share, label }: { share: number; label: string }) {
  return (
    <div className="bg-sunk h-2 min-w-16 overflow-hidden rounded-xs" role="img" aria-label={label}>
      <div className="bg-accent h-full" style={{ width: `${Math.min(100, share * 100)}%` }} />
    </div>
  );
}
