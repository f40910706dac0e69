/** Where the documents of a run are, by what is chosen of it. */

import type { Chosen as ComparedChosen } from "../../api/queries/runs";

type Chosen = { check?: string; severity?: string; causes?: boolean };

/** Findings or causes of a run in every form. */
export function runExports(runId: string, { check = "", severity = "", causes = false }: Chosen = {}) {
  const query = (form: string) => {
    const asked = new URLSearchParams({
      ...(causes ? { what: "causes" } : {}),
      ...(check ? { check } : {}),
      ...(severity ? { severity } : {}),
    }).toString();
    return `/api/v1/runs/${runId}/export/${form}${asked ? `?${asked}` : ""}`;
  };
  return [
    { label: "CSV", href: query("csv") },
    { label: causes ? "Excel workbook" : "Excel workbook, a sheet for each severity", href: query("xlsx") },
    { label: "JSON Lines", href: query("jsonl") },
    ...(causes ? [] : [{ label: "SARIF 2.1.0", href: query("sarif") }]),
    ...(check ? workLists(runId, [check], []) : severity ? [] : workLists(runId, [], [])),
  ];
}

/** The work list for a developer. */
export function workLists(runId: string, checks: readonly string[], causes: readonly number[]) {
  const query = (form: string) =>
    `/api/v1/runs/${runId}/worklist?${new URLSearchParams({ form, checks: checks.join(","), causes: causes.join(",") })}`;
  return [
    { label: "Work list, to print or send", href: query("html"), opens: true },
    { label: "Work list as Markdown", href: query("md") },
  ];
}

/** The findings of a comparison, narrowed down as they are shown. */
export function comparedExports({ base, head }: { base: string; head: string }, chosen: ComparedChosen) {
  const query = (form: string) => {
    const asked = new URLSearchParams({ base, head, form });
    for (const [name, value] of Object.entries(chosen)) if (value !== undefined) asked.set(name, String(value));
    return `/api/v1/comparisons/export?${asked}`;
  };
  return [
    { label: "CSV", href: query("csv") },
    { label: "Excel workbook", href: query("xlsx") },
    { label: "JSON Lines", href: query("jsonl") },
  ];
}
