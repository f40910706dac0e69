/** Settings of a plan between the service's values and what is typed into a form. */

import type { PlanSetting, PlanValues } from "../../api/types";
import { bytes, plural, span } from "../../lib/words";

export type Entered = string | boolean;

/** A value as it is shown in its field. */
export function read(kind: string, value: unknown): Entered {
  if (kind === "switch") return Boolean(value);
  if (kind === "lines") return ((value as string[] | undefined) ?? []).join("\n");
  if (kind === "pairs" || kind === "figures")
    return Object.entries((value as Record<string, unknown> | undefined) ?? {})
      .map(([name, entry]) => `${name} = ${String(entry)}`)
      .join("\n");
  if (kind === "severities")
    return Object.entries((value as Record<string, { severity: string; reason: string }> | undefined) ?? {})
      .map(([check, change]) => `${check} = ${change.severity}, ${change.reason}`)
      .join("\n");
  return typeof value === "string" || typeof value === "number" ? String(value) : "";
}

/** Lines such as "name = value" by their names. */
export function pairs(text: string): Record<string, string> {
  return Object.fromEntries(
    lines(text).map((line) => {
      const at = line.indexOf("=");
      return at < 0 ? [line.trim(), ""] : [line.slice(0, at).trim(), line.slice(at + 1).trim()];
    }),
  );
}

const lines = (text: string) =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);

/** What was typed as the service takes it. What cannot be read is sent as it is, so that the service says what is wrong. */
export function write(kind: string, entered: Entered): unknown {
  if (kind === "switch") return Boolean(entered);
  const text = String(entered);
  if (kind === "number") return text.trim() === "" || Number.isNaN(Number(text)) ? text : Number(text);
  if (kind === "lines") return lines(text);
  if (kind === "pairs") return pairs(text);
  if (kind === "severities")
    return Object.fromEntries(
      Object.entries(pairs(text)).map(([check, said]) => {
        const [severity = "", ...reason] = said.split(",");
        return [check, { severity: severity.trim(), reason: reason.join(",").trim() }];
      }),
    );
  if (kind === "figures")
    return Object.fromEntries(
      Object.entries(pairs(text)).map(([name, entry]) => [
        name,
        entry !== "" && !Number.isNaN(Number(entry)) ? Number(entry) : entry,
      ]),
    );
  return text;
}

/** A list that somebody chose as a text or CSV file: its addresses, and the lines without one in words. */
export interface AddressList {
  addresses: string[];
  unusable: string;
}

/** The first web address of every line, each once. Remarks, empty lines and the head row of a table have none to give. */
export function addressesIn(text: string): AddressList {
  const found = new Set<string>();
  const left: string[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    const cells = line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, ""));
    const first = cells.find((cell) => /^https?:\/\//.test(cell));
    const isHead = index === 0 && cells.length > 1;
    if (first) found.add(first);
    else if (line.trim() && !line.trim().startsWith("#") && !isHead) left.push(`line ${index + 1}: ${line.trim()}`);
  });
  const more = left.length > 3 ? "; …" : "";
  const unusable = left.length
    ? `${plural(left.length, "line")} without a full web address left out (${left.slice(0, 3).join("; ")}${more}).`
    : "";
  return { addresses: [...found], unusable };
}

/** A large figure in the unit people think in: 14400 seconds are 4 h, 20971520 bytes 20 MiB. Empty when that helps nobody. */
export function inWords(unit: string, text: string): string {
  const figure = Number(text);
  if (!Number.isFinite(figure)) return "";
  if (unit === "seconds" && figure >= 120) return span(figure);
  if (unit === "bytes" && figure >= 1024) return bytes(figure);
  return "";
}

/** All settings of a form as the service takes them. What cannot be read is sent as it is; the service says what is wrong. */
export function writtenPlan(settings: readonly PlanSetting[], values: Record<string, Entered>): PlanValues {
  return Object.fromEntries(settings.map((s) => [s.name, write(s.kind, values[s.name] ?? "")]));
}

/** The value of a setting by its name, as the list of settings gives it. */
export const valueOf = (values: object, name: string): unknown => Reflect.get(values, name);
