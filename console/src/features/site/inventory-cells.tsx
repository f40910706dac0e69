/** Values of the inventory as people read them. */
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { InventoryColumn, Share } from "../../api/types";
import { bytes, count, day, place, points, span } from "../../lib/words";
import { Address } from "../../ui/parts";

export type Value = string | number | boolean | null | undefined;

const ADDRESSES = new Set(["canonical", "redirect_to", "reached_from", "folder"]);
const LONG = new Set([
  "title",
  "text",
  "description",
  "h1",
  "data_types",
  "blocked_by",
  "template",
  "cache_control",
  "failure",
]);

/** A figure with its unit. */
export function figure(value: number, unit: string): string {
  if (unit === "bytes") return bytes(value);
  if (unit === "points") return points(value);
  if (unit === "s") return value < 1 ? "0 s" : span(value);
  if (unit === "ms") return `${value < 10 ? points(value) : count(Math.round(value))} ms`;
  if (unit === "%") return `${points(value)} %`;
  return Number.isInteger(value) ? count(value) : points(value);
}

export function Cell({
  value,
  column,
  siteId,
  host,
}: {
  value: Value;
  column: InventoryColumn;
  siteId: number;
  host: string;
}): ReactNode {
  if (value === null || value === undefined || value === "") return <span className="text-ink-3">–</span>;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number")
    return column.name === "status" || column.name === "final_status" ? value : figure(value, column.unit);
  if (column.kind === "day") return day(value);
  if (column.name === "url" || column.name === "source" || column.name === "target")
    return (
      <Link to={`/sites/${siteId}/page?url=${encodeURIComponent(value)}`}>
        <Address text={place(value, host)} chars={46} />
      </Link>
    );
  if (ADDRESSES.has(column.name)) return <Address text={place(value, host)} chars={40} />;
  if (LONG.has(column.name))
    return (
      <span className="block max-w-72 truncate" title={value}>
        {value}
      </span>
    );
  return value;
}

/** What a share of a spread is of. */
export function shareWords(share: Share, column: InventoryColumn): string {
  if (typeof share.value === "boolean") return share.value ? "yes" : "no";
  if (typeof share.value === "string") return column.kind === "day" ? day(share.value) : share.value;
  const [low, high] = [share.low ?? null, share.high ?? null];
  if (low === null && high === null) return "none";
  const exact = !["bytes", "ms", "s", "%", "points"].includes(column.unit);
  if (exact && low !== null && high !== null && high - low === 1) return count(low);
  if (exact && low === null && high === 1) return "0";
  const text = (value: number) => (column.name.includes("status") ? String(value) : figure(value, column.unit));
  if (low === null) return `under ${text(high ?? 0)}`;
  if (high === null) return `${text(low)} and more`;
  return exact ? `${text(low)} to ${text(high - 1)}` : `${text(low)} to ${text(high)}`;
}
