import { Downloads } from "./downloads";

const FORMS = [
  ["Workbook (XLSX)", "xlsx"],
  ["CSV", "csv"],
  ["JSON Lines", "jsonl"],
] as const;

/** A table in the forms that it can be had in, from where it is served, as it was asked for. */
export function Tables({
  from,
  asked = {},
  label,
}: {
  from: string;
  asked?: Record<string, string | number | boolean | undefined>;
  label?: string;
}) {
  const given = Object.entries(asked).flatMap(([name, value]) => (value ? [[name, String(value)]] : []));
  const items = FORMS.map(([words, form]) => ({
    label: words,
    href: `/api/v1${from}?${new URLSearchParams([["form", form], ...given])}`,
  }));
  return <Downloads {...(label ? { label } : {})} items={items} />;
}
