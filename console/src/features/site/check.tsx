import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Cause, CheckOnSite, Finding, Listed } from "../../api/client";
import { query } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { age, count, day, gain, place, plural } from "../../lib/words";
import { Address, Button, Card, Field, Loaded, Table, Trouble } from "../../ui/parts";
import { Dialog } from "../../ui/dialog";
import { Line, Severity } from "../../ui/signs";
import { useSite } from "./context";
import { MakeTodo } from "./make-todo";
import { NoRun } from "./no-run";

export function CheckScreen() {
  const { site, run } = useSite();
  const { checkId } = useParams();
  const check = useRead<CheckOnSite>(run ? `/runs/${run.id}/checks/${checkId}` : null);
  if (!run) return <NoRun site={site} />;
  return (
    <Loaded query={check} tall={12}>
      {(data) => <Content check={data} />}
    </Loaded>
  );
}

function Content({ check }: { check: CheckOnSite }) {
  const { site, run } = useSite();
  const [view, setView] = useSearchParams();
  const causes = check.causes ?? [];
  const chosen = view.get("cause") ? Number(view.get("cause")) : causes[0]?.id;
  const pick = (id: number) => setView({ cause: String(id) }, { replace: true });
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-[17px] font-semibold">{check.summary}</h2>
        <div className="flex gap-2">
          <Waive check={check} />
          <a
            className="border-line-strong bg-surface text-ink rounded-md border px-2.75 py-1.25"
            href={`/api/v1/runs/${run?.id}/export/csv`}
          >
            Export
          </a>
          <MakeTodo
            main
            site={site}
            check={check.id}
            title={check.summary}
            label="Make a to-do"
            disabled={check.findings === 0}
          />
        </div>
      </div>
      <div className="mt-1.5 mb-3 flex flex-wrap items-center gap-x-3.5 gap-y-1">
        <Severity name={check.severity} />
        <span className="text-ink-3">
          {check.area_name} · <span className="font-mono text-sm">{check.id}</span>
        </span>
        <span>
          {plural(check.findings, "place")} on {plural(check.pages, "page")} · {plural(check.fixes, "fix")} · worth{" "}
          <b className="text-good font-semibold">{gain(check.gain)}</b> points
          {check.waived > 0 && ` · ${count(check.waived)} waived`}
          {check.unverified > 0 && ` · ${count(check.unverified)} unverified`}
        </span>
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[2fr_1fr]">
        <div className="min-w-0 space-y-3.5">
          <Card title="Causes" aside="each is one fix">
            <CauseTable causes={causes} chosen={chosen} pick={pick} />
          </Card>
          <Places key={chosen} check={check} cause={chosen} />
        </div>
        <Explanation check={check} />
      </div>
    </>
  );
}

function CauseTable({ causes, chosen, pick }: { causes: Cause[]; chosen?: number; pick: (id: number) => void }) {
  const { site, run } = useSite();
  const now = new Date(run?.requested_at ?? 0);
  return (
    <Table
      rows={causes.slice(0, 60)}
      id={(r) => r.id}
      caption="Causes of this check"
      empty="This check passes everywhere it could be examined."
      marked={(r) => r.id === chosen}
      columns={[
        {
          head: <span className="sr-only">Choose</span>,
          cell: (r) => (
            <input
              type="radio"
              name="cause"
              aria-label={`Show the places of: ${r.line}`}
              checked={r.id === chosen}
              onChange={() => pick(r.id)}
            />
          ),
        },
        {
          head: "Cause",
          cell: (r) => <Address text={r.line} chars={110} className="!font-sans !text-base wrap-break-word" />,
        },
        { head: "Places", number: true, cell: (r) => count(r.findings) },
        { head: "Gain", number: true, cell: (r) => <span className="text-good">{gain(r.gain)}</span> },
        {
          head: "Since",
          cell: (r) => (
            <span className="whitespace-nowrap">
              {r.times_returned > 0 && "↺ "}
              {age(r.since, now)}
            </span>
          ),
        },
        {
          head: "To-do",
          cell: (r) =>
            r.todos?.[0] ? (
              <Link to={`/todos/${r.todos[0].id}`}>
                {r.todos[0].assignee || "nobody"}, {r.todos[0].due ? day(r.todos[0].due) : ""}
              </Link>
            ) : (
              <MakeTodo site={site} cause={r.id} title={r.line.slice(0, 200)} label="make" quiet />
            ),
        },
      ]}
    />
  );
}

function Places({ check, cause }: { check: CheckOnSite; cause?: number }) {
  const { site, run } = useSite();
  const [limit, setLimit] = useState(25);
  const found = useRead<Listed<Finding>>(`/runs/${run?.id}/findings${query({ check: check.id, cause, limit })}`);
  return (
    <Card
      title={
        <>Places {cause !== undefined && <span className="text-ink-3 text-sm font-normal">of the chosen cause</span>}</>
      }
    >
      <Loaded query={found}>
        {(data) => (
          <>
            <Table
              rows={data.items}
              id={(r) => r.id}
              caption="Places where the check fails"
              empty="No places."
              columns={[
                {
                  head: "On",
                  className: "min-w-44",
                  cell: (r) =>
                    r.subject === "site" ? (
                      "the whole site"
                    ) : (
                      <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(r.subject)}`}>
                        <Address text={place(r.subject, site.host)} chars={48} />
                      </Link>
                    ),
                },
                {
                  head: "Finding",
                  cell: (r) => (
                    <>
                      <span className="break-words">{r.message}</span>
                      <Snippet evidence={r.evidence} />
                    </>
                  ),
                },
                {
                  head: "Since",
                  cell: (r) => (
                    <span className="whitespace-nowrap">{age(r.since, new Date(run?.requested_at ?? 0))}</span>
                  ),
                },
              ]}
            />
            {data.after && (
              <Button className="mt-2" onClick={() => setLimit(limit * 4)}>
                Show more of {count(data.total)}
              </Button>
            )}
          </>
        )}
      </Loaded>
    </Card>
  );
}

function Snippet({ evidence }: { evidence: Record<string, unknown> }) {
  const { snippet, selector, landmark } = evidence as { snippet?: string; selector?: string; landmark?: string };
  if (!snippet && !selector) return null;
  return (
    <span className="text-ink-3 mt-0.5 block text-sm">
      {snippet && <code className="font-mono break-all">{snippet}</code>} {landmark && `in ${landmark}`}{" "}
      {!snippet && selector && <code className="font-mono break-all">{selector}</code>}
    </span>
  );
}

function Explanation({ check }: { check: CheckOnSite }) {
  const limits = Object.entries(check.limits) as [string, { default: number; unit: string; meaning: string }][];
  return (
    <Card title="Why it matters">
      <p>{check.why}</p>
      <h2 className="mt-3 mb-1 font-semibold">How to fix it</h2>
      <p>
        {check.fix} <b className="font-semibold">{check.effort[0]?.toUpperCase() + check.effort.slice(1)} effort</b> for
        each cause.
      </p>
      <h2 className="mt-3 mb-1 font-semibold">Rests on</h2>
      <p>{check.standard}</p>
      {limits.length > 0 && (
        <>
          <h2 className="mt-3 mb-1 font-semibold">Limits</h2>
          {limits.map(([name, limit]) => (
            <p key={name}>
              {limit.meaning}: {limit.default.toLocaleString("en-GB")} {limit.unit}{" "}
              <span className="text-ink-3 font-mono text-sm">{name}</span>
            </p>
          ))}
        </>
      )}
      <h2 className="mt-3 mb-1 font-semibold">Over {plural((check.history ?? []).length, "run")}</h2>
      <Line
        values={(check.history ?? []).map((point) => point[1] as number)}
        width={260}
        height={60}
        label="Places per run"
      />
      <p className="text-ink-3 text-sm">places per run, low is good</p>
    </Card>
  );
}

function Waive({ check }: { check: CheckOnSite }) {
  const { site } = useSite();
  const [open, setOpen] = useState(false);
  const [values, setValues] = useState({ reason: "", pattern: "", end: "" });
  const add = useChange<Record<string, unknown>>("POST", `/sites/${site.id}/waivers`);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Waive</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={`Waive “${check.summary}”`}
        description="Waived findings are still examined and listed, but count neither for health nor for to-dos. The next run applies it."
      >
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            add.mutate(
              {
                check: check.id,
                reason: values.reason,
                pattern: values.pattern,
                ...(values.end ? { end: values.end } : {}),
              },
              { onSuccess: () => setOpen(false) },
            );
          }}
        >
          <Field label="Reason">
            {(c) => (
              <input
                className={c}
                required
                minLength={3}
                value={values.reason}
                onChange={(e) => setValues({ ...values, reason: e.target.value })}
              />
            )}
          </Field>
          <Field label="Where" hint="A page's address or a pattern with *; left empty: the whole site">
            {(c) => (
              <input
                className={c}
                value={values.pattern}
                placeholder={`https://${site.host}/…`}
                onChange={(e) => setValues({ ...values, pattern: e.target.value })}
              />
            )}
          </Field>
          <Field label="Until" hint="Left empty: without an end">
            {(c) => (
              <input
                className={c}
                type="date"
                value={values.end}
                onChange={(e) => setValues({ ...values, end: e.target.value })}
              />
            )}
          </Field>
          {add.error && <Trouble error={add.error} />}
          <div className="flex gap-2">
            <Button main type="submit" disabled={add.isPending}>
              Waive it
            </Button>
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}
