/** A filter of the inventory as the service reads it: conditions, all or any of which hold. */
import type { Filter, InventoryColumn, Operator } from "../../api/types";

export type Condition = { column: string; operator: Operator; values: string[]; not: boolean };
/** What can be put together by hand: conditions, and groups of conditions, joined in one way each. */
export type Group = { any: boolean; parts: (Condition | Group)[] };

export const isGroup = (part: Condition | Group): part is Group => "parts" in part;
export const EMPTY_GROUP: Group = { any: false, parts: [] };

const PLAIN = /^[+-]?\d+(\.\d+)?$/;
const WORD = /^[A-Za-z][\w-]*$/;
const RESERVED = new Set(["and", "or", "not", "is", "in", "between", "contains", "starts", "ends", "matches", "empty"]);

/** A value as it stands in a filter. */
export function writtenValue(value: string, kind: InventoryColumn["kind"]): string {
  if (kind === "number" || kind === "day") return value.trim() || '""';
  if (kind === "flag") return value || "yes";
  return WORD.test(value) && !RESERVED.has(value.toLowerCase()) && !PLAIN.test(value) ? value : JSON.stringify(value);
}

export function writtenCondition({ column, operator, values, not }: Condition, kind: InventoryColumn["kind"]): string {
  const written = values.map((value) => writtenValue(value, kind));
  const [first = '""', second = '""'] = written;
  if (operator === "is empty") return `${column} is ${not ? "not " : ""}empty`;
  if (operator === "in") return `${column} ${not ? "not " : ""}in (${written.join(", ")})`;
  if (operator === "contains") return `${column} ${not ? "not " : ""}contains ${first}`;
  const said = operator === "between" ? `${column} between ${first} and ${second}` : `${column} ${operator} ${first}`;
  return not ? `not (${said})` : said;
}

/** A group as the service reads it. */
export function writtenGroup(group: Group, kinds: ReadonlyMap<string, InventoryColumn>): string {
  const parts = group.parts.map((part) => {
    if (!isGroup(part)) return writtenCondition(part, kinds.get(part.column)?.kind ?? "text");
    const inner = writtenGroup(part, kinds);
    return inner && part.parts.length > 1 ? `(${inner})` : inner;
  });
  return parts.filter(Boolean).join(group.any ? " or " : " and ");
}

/** What the service read, for putting together by hand; nothing where it is more than that. */
export function groupOf(filter: Filter): Group | null {
  if (filter.kind === "condition" || filter.kind === "not") {
    const found = conditionOf(filter);
    return found && { any: false, parts: [found] };
  }
  const parts = (filter.parts ?? []).map((part) => conditionOf(part) ?? groupOf(part));
  if (parts.some((part) => part === null)) return null;
  return { any: filter.kind === "any", parts: parts as Group["parts"] };
}

function conditionOf(filter: Filter): Condition | null {
  if (filter.kind === "not") {
    const [inner] = filter.parts ?? [];
    const found = inner && conditionOf(inner);
    return found ? { ...found, not: !found.not } : null;
  }
  if (filter.kind !== "condition" || !filter.operator) return null;
  const values = (filter.values ?? []).map((value) =>
    typeof value === "boolean" ? (value ? "yes" : "no") : String(value),
  );
  return { column: filter.column ?? "", operator: filter.operator, values, not: false };
}

/** A filter and one more condition, as text. */
export function narrowed(where: string, condition: string): string {
  if (!where.trim()) return condition;
  return `${/\bor\b/i.test(where) ? `(${where})` : where} and ${condition}`;
}
