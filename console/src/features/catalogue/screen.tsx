import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation, useSearchParams } from "react-router";
import { useMay } from "../../api/hooks";
import { catalogue } from "../../api/queries/work";
import type { CatalogueEntry, FailingCheck } from "../../api/types";
import { useAddress } from "../../lib/address";
import { count, holds, plural } from "../../lib/words";
import { SearchInput, Select } from "../../ui/controls";
import { buttonClass, Card, Chip, Heading, Title } from "../../ui/parts";
import { SEVERITIES, Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { Retired } from "./retired";

export function CatalogueScreen() {
  const entries = useQuery(catalogue.whole());
  const may = useMay();
  return (
    <>
      <Title of={["Catalogue"]} />
      <Heading title="Catalogue">
        {may("list_profiles") && (
          <Link to="/catalogue/profiles" className={buttonClass()}>
            Profiles
          </Link>
        )}
      </Heading>
      <p className="text-ink-3">What is checked, why it matters, and how to fix it.</p>
      <Loaded query={entries} tall={14}>
        {(rows) => <Entries rows={rows} />}
      </Loaded>
    </>
  );
}

function Entries({ rows }: { rows: CatalogueEntry[] }) {
  const [view, setView] = useSearchParams();
  const [, set] = useAddress();
  const wanted = decodeURIComponent(useLocation().hash.slice(1));
  const named = rows.find((r) => r.id === wanted || r.names.includes(wanted));
  useEffect(() => {
    if (named) document.getElementById(named.id)?.scrollIntoView();
  }, [named]);
  const area = view.get("area") ?? "";
  const current = rows.filter((r) => !r.retired);
  const [typed, setTyped] = useState("");
  const [severity, effort, fails] = [view.get("severity") ?? "", view.get("effort") ?? "", view.get("fails") ?? ""];
  const may = useMay();
  const counted = useQuery({ ...catalogue.failing(), enabled: may("list_failing_checks") });
  const failing = new Map((counted.data ?? []).map((row) => [row.check, row]));
  const shown = (view.has("retired") ? rows.filter((r) => r.retired) : current)
    .filter((r) => !area || r.area === area)
    .filter((r) => !severity || r.severity === severity)
    .filter((r) => !effort || r.effort === effort)
    .filter((r) => !fails || failing.has(r.id) === (fails === "yes"))
    .filter((r) => holds(typed, r.summary, r.id, ...(r.terms ?? [])))
    .sort((a, b) => (fails === "yes" ? (failing.get(b.id)?.sites ?? 0) - (failing.get(a.id)?.sites ?? 0) : 0));
  const listed = named && !shown.includes(named) ? [named, ...shown] : shown;
  return (
    <>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <SearchInput label="Search checks" value={typed} onChange={setTyped} />
        <div className="w-40">
          <Select
            aria-label="Severity"
            value={severity}
            onChange={(value) => set("severity", value)}
            choices={[
              { value: "", label: "of any severity" },
              ...SEVERITIES.map((name) => ({ value: name, label: name })),
            ]}
          />
        </div>
        <div className="w-40">
          <Select
            aria-label="Effort"
            value={effort}
            onChange={(value) => set("effort", value)}
            choices={[
              { value: "", label: "of any effort" },
              ...["small", "medium", "large"].map((name) => ({ value: name, label: `${name} effort` })),
            ]}
          />
        </div>
        {may("list_failing_checks") && (
          <div className="w-48">
            <Select
              aria-label="Where it fails"
              value={fails}
              onChange={(value) => set("fails", value)}
              choices={[
                { value: "", label: "failing or not" },
                { value: "yes", label: "failing on some site" },
                { value: "no", label: "failing nowhere" },
              ]}
            />
          </div>
        )}
        <span className="text-ink-3 text-sm">{plural(listed.length, "check")}</span>
      </div>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Chip on={!area && !view.has("retired")} onClick={() => setView({}, { replace: true })}>
          all {current.length}
        </Chip>
        {[...new Map(current.map((r) => [r.area, r.area_name]))].map(([id, name]) => (
          <Chip key={id} on={area === id} onClick={() => setView({ area: id }, { replace: true })}>
            {name}
          </Chip>
        ))}
        {rows.length > current.length && (
          <Chip on={view.has("retired")} onClick={() => setView({ retired: "" }, { replace: true })}>
            retired {rows.length - current.length}
          </Chip>
        )}
      </div>
      {wanted && !named && (
        <p role="status" className="bg-clay-soft mt-3 rounded-md px-3 py-1.5">
          No check is or was called “{wanted}”. Search for a word of its title above.
        </p>
      )}
      <Card className="mt-3.5">
        {listed.map((r) => (
          <Entry key={r.id} entry={r} open={r === named} failing={failing.get(r.id)} />
        ))}
        {listed.length === 0 && <p className="text-ink-3">No check has “{typed}” in its title, id or search terms.</p>}
      </Card>
    </>
  );
}

function Entry({ entry, open, failing }: { entry: CatalogueEntry; open: boolean; failing: FailingCheck | undefined }) {
  const [shown, setShown] = useState(open);
  return (
    <details
      id={entry.id}
      onToggle={(event) => setShown(event.currentTarget.open)}
      open={open || undefined}
      className="border-line border-b py-1.5 last:border-b-0"
    >
      <summary className="flex cursor-pointer flex-wrap items-center gap-x-3">
        <span className="w-20">
          <Severity name={entry.severity} />
        </span>
        <b className="font-semibold">{entry.summary}</b>
        <span className="text-ink-3 font-mono text-sm">{entry.id}</span>
        {failing && (
          <span className="text-ink-2 ml-auto text-sm">
            fails on {plural(failing.sites, "site")}, {plural(failing.findings, "place")}
          </span>
        )}
      </summary>
      <div className="max-w-3xl space-y-1.5 py-2 pl-23">
        {entry.retired ? (
          <Retired id={entry.id} retired={entry.retired} />
        ) : (
          <>
            <p>{entry.why}</p>
            <p>
              <b className="font-semibold">How to fix it:</b> {entry.fix}
            </p>
            {failing && shown && <FailsOn check={entry.id} />}
            <p className="text-ink-3 text-sm">
              Looks at: {entry.subject}
              {entry.applies_to && ` · applies to ${entry.applies_to}`} · {entry.effort} effort · rests on{" "}
              {entry.standard}
            </p>
            {Object.entries(entry.limits).map(([name, limit]) => (
              <p key={name} className="text-ink-3 text-sm">
                <span className="font-mono">{name}</span> = {limit.default.toLocaleString("en-GB")} {limit.unit}:{" "}
                {limit.meaning}
              </p>
            ))}
          </>
        )}
        {entry.names.length > 0 && (
          <p className="text-ink-3 text-sm">
            Was called <span className="font-mono">{entry.names.join(", ")}</span>.
          </p>
        )}
      </div>
    </details>
  );
}

/** The sites on which a check fails now. */
function FailsOn({ check }: { check: string }) {
  const found = useQuery(catalogue.failingSites(check));
  return (
    <p>
      Fails on{" "}
      {(found.data ?? []).map((row, n) => (
        <span key={row.site_id}>
          {n > 0 && ", "}
          <Link to={`/sites/${row.site_id}/checks/${check}`}>{row.host}</Link> ({count(row.findings)})
        </span>
      ))}
      .
    </p>
  );
}
