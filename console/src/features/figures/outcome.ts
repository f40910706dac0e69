import type { FigureFile } from "../../api/types";
import { count } from "../../lib/words";

/** What the rows of a table have done. */
export function outcomeWords(outcome: NonNullable<FigureFile["outcome"]>): string {
  const parts: [number | undefined, string][] = [
    [outcome.new, "new"],
    [outcome.replaced, "in place of others"],
    [outcome.same, "as they were"],
    [outcome.repeated, "given more than once"],
    [outcome.left_out, "left out"],
  ];
  const said = parts.filter(([number]) => number).map(([number, words]) => `${count(number)} ${words}`);
  return said.length > 0 ? said.join(", ") : "no rows";
}
