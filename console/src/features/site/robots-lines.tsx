import type { Comparison } from "../../api/types";
import { plural } from "../../lib/words";

type RobotsLine = Comparison["robots_lines"][number];

const TONE: Record<RobotsLine["change"], string> = {
  added: "bg-clay-soft text-bad",
  removed: "text-ink-3 line-through",
  same: "text-ink-2",
};
const SIGN: Record<RobotsLine["change"], string> = { added: "+", removed: "−", same: " " };
const WORD: Record<RobotsLine["change"], string> = { added: "added: ", removed: "removed: ", same: "" };

/** The lines of robots.txt that differ, with what each blocks or frees. */
export function RobotsLines({ lines }: { lines: readonly RobotsLine[] }) {
  return (
    <ol
      className="bg-sunk/50 overflow-x-auto rounded-md py-1.5 font-mono text-sm"
      tabIndex={0}
      aria-label="Lines of robots.txt"
    >
      {lines.map((line, i) => (
        <li key={i}>
          {line.gap && <div className="text-ink-3 px-2.5">…</div>}
          <div className={`flex flex-wrap justify-between gap-x-3 px-2.5 ${TONE[line.change]}`}>
            <span className="min-w-0 whitespace-pre-wrap">
              <span aria-hidden="true">{SIGN[line.change]} </span>
              <span className="sr-only">{WORD[line.change]}</span>
              {line.text}
            </span>
            {(line.blocks > 0 || line.frees > 0) && (
              <span className="font-sans font-semibold no-underline">
                {line.blocks > 0 && `blocks ${plural(line.blocks, "known page")}`}
                {line.blocks > 0 && line.frees > 0 && ", "}
                {line.frees > 0 && `frees ${plural(line.frees, "known page")}`}
              </span>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}
