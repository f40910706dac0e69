/** How a list is spread over the values of a column: bars that narrow the list down when they are clicked. */
import type { InventoryColumn, Spread } from "../../api/types";
import { count } from "../../lib/words";
import { shareWords } from "./inventory-cells";

export function SpreadBars({
  spread,
  column,
  onChoose,
}: {
  spread: Spread;
  column: InventoryColumn;
  onChoose: (where: string) => void;
}) {
  const most = Math.max(1, ...spread.shares.map((share) => share.count));
  if (spread.shares.length === 0) return <p className="text-ink-3">Nothing to count.</p>;
  return (
    <ul className="space-y-px">
      {spread.shares.map((share) => {
        const words = shareWords(share, column);
        return (
          <li key={share.where}>
            <button
              type="button"
              aria-label={`${column.label} ${words}: ${count(share.count)}. Show these.`}
              className="hover:bg-sunk grid min-h-[26px] w-full grid-cols-[minmax(0,7.5rem)_1fr_auto] items-center gap-2 rounded-sm px-1 text-left"
              onClick={() => onChoose(share.where)}
            >
              <span className="truncate" title={words}>
                {words}
              </span>
              <span className="bg-sunk block h-2 rounded-sm" aria-hidden="true">
                <span
                  className="bg-accent block h-2 rounded-sm"
                  style={{ width: `${Math.max(1.5, (100 * share.count) / most)}%` }}
                />
              </span>
              <span className="text-right tabular-nums">{count(share.count)}</span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
