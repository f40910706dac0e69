/** Settings of a plan between the service's values and what is typed into a form. */

import { bytes, span } from "../../lib/words";

export type Entered = string | boolean;

/** A value as it is shown in its field. */
export function read(kind: string, value: unknown): Entered {
  if (kind === "switch") return Boolean(value);
  if (kind === "lines") return ((value as string[] | undefined) ?? []).join("\n");
  if (kind === "pairs" || kind === "figures")
    return Object.entries((value as Record<string, unknown> | undefined) ?? {})
      .map(([name, entry]) => `${name} = ${String(entry)}`)
      .join("\n");
  return String(value ?? "");
}

/** What was typed as the service takes it. What cannot be read is sent as it is, so that the service says what is wrong. */
export function write(kind: string, entered: Entered): unknown {
  if (kind === "switch") return Boolean(entered);
  const text = String(entered);
  if (kind === "number") return text.trim() === "" || Number.isNaN(Number(text)) ? text : Number(text);
  const lines = text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  if (kind === "lines") return lines;
  if (kind === "pairs" || kind === "figures")
    return Object.fromEntries(
      lines.map((line) => {
        const at = line.indexOf("=");
        const name = (at < 0 ? line : line.slice(0, at)).trim();
        const entry = at < 0 ? "" : line.slice(at + 1).trim();
        return [name, kind === "figures" && entry !== "" && !Number.isNaN(Number(entry)) ? Number(entry) : entry];
      }),
    );
  return text;
}

/** The addresses in a text or CSV file that somebody chose: the first web address of every line, each once. */
export function addressesIn(text: string): string {
  const found = new Set<string>();
  for (const line of text.split(/\r?\n/)) {
    const web = line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, ""));
    const first = web.find((cell) => /^https?:\/\//.test(cell));
    if (first) found.add(first);
  }
  return [...found].join("\n");
}

/** A large figure in the unit people think in: 14400 seconds are 4 h, 20971520 bytes 20 MiB. Empty when that helps nobody. */
export function inWords(unit: string, text: string): string {
  const figure = Number(text);
  if (!Number.isFinite(figure)) return "";
  if (unit === "seconds" && figure >= 120) return span(figure);
  if (unit === "bytes" && figure >= 1024) return bytes(figure);
  return "";
}
