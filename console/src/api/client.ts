/** The one way to the service: JSON over fetch, problems as errors. */
import type { components } from "./generated";

type Schemas = components["schemas"];
export type Desk = Schemas["DeskOut"];
export type DeskSite = Schemas["DeskSite"];
export type Client = Schemas["ClientOut"];
export type Site = Schemas["SiteOut"];
export type Run = Schemas["RunOut"];
export type RunBrief = Schemas["RunBrief"];
export type Check = Schemas["CheckRow"];
export type CheckOnSite = Schemas["CheckOnSite"];
export type Cause = Schemas["CauseRow"];
export type Finding = Schemas["FindingRow"];
export type Page = Schemas["PageOut"];
export type PageRow = Schemas["PageRow"];
export type Comparison = Schemas["ComparisonOut"];
export type Todo = Schemas["TodoOut"];
export type TodoBody = Partial<Schemas["TodoBody"]> & { site_id: number };
export type TodoChange = Partial<Schemas["TodoChange"]>;
export type Trend = Schemas["TrendOut"];
export type Benchmark = Schemas["BenchmarkOut"];
export type BenchmarkBrief = Schemas["BenchmarkBrief"];
export type Report = Schemas["ReportOut"];
export type Member = Schemas["MemberOut"];
export type Plan = Schemas["PlanOut"];
export type PlanSetting = Schemas["SettingOut"];
export type PreviewRow = Schemas["PreviewRow"];
export type AccessKinds = Schemas["AccessOut"];
export type Look = Schemas["LookOut"];
export type Waiver = Schemas["WaiverOut"];
export type Severity = Schemas["CheckRow"]["severity"];
export type Listed<T> = { items: T[]; total: number; after: string | null };

/** What a run's summary holds, as far as the console shows it. */
export type Summary = {
  health: number | null;
  areas: Record<string, number | null>;
  pages_scored: number;
  findings: number;
  waived: number;
  unverified: number;
  severities: Record<Severity, { checks: number; findings: number }>;
  checks: Record<string, { findings: number; gain: number; severity: Severity; waived: number }>;
  funnel: { id: string; label: string; count: number }[];
  dropouts: Record<string, number>;
  end_words: string;
  notices: string[];
};
export type Changes = { counts: Record<string, number>; todos_confirmed?: number; robots_changed?: boolean };
export type CatalogueEntry = {
  id: string;
  area: string;
  area_name: string;
  severity: Severity;
  subject: string;
  summary: string;
  why: string;
  fix: string;
  effort: string;
  standard: string;
  limits: Record<string, { default: number; unit: string; meaning: string }>;
};

export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly hint: string,
    readonly field = "",
  ) {
    super(detail);
  }

  /** The same problem with a field called as the form calls it. */
  about(field: string, label: string): ProblemError {
    return new ProblemError(this.status, this.detail.replace(field, label), this.hint, this.field);
  }
}

export async function call<T>(method: string, path: string, body?: unknown, version?: number): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      method,
      credentials: "same-origin",
      headers: {
        ...(body === undefined ? {} : { "Content-Type": "application/json" }),
        ...(version === undefined ? {} : { "If-Match": `"${version}"` }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new ProblemError(0, "The service does not answer.", "Check the connection, then try again.");
  }
  if (!response.ok) {
    const problem = await response.json().catch(() => ({}));
    throw new ProblemError(
      response.status,
      problem.detail ?? `The service answered ${response.status}.`,
      problem.hint ?? "",
      problem.field ?? "",
    );
  }
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

export const get = <T>(path: string) => call<T>("GET", path);

export function query(values: Record<string, string | number | boolean | null | undefined>): string {
  const given = Object.entries(values).filter(([, v]) => v !== undefined && v !== null && v !== "");
  return given.length ? "?" + new URLSearchParams(given.map(([k, v]) => [k, String(v)])).toString() : "";
}
