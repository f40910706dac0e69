import { useState } from "react";
import { useSearchParams } from "react-router";
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { CatalogueEntry, Trend } from "../../api/client";
import { query } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { day, moment, points } from "../../lib/words";
import { Button, Card, Field, LinkButton, Loaded, Table, Trouble } from "../../ui/parts";
import { useSite } from "./context";

export function TrendScreen() {
  const { site } = useSite();
  const [view, setView] = useSearchParams();
  const figure = view.get("figure") ?? "health";
  const [from, to] = [view.get("from") ?? "", view.get("to") ?? ""];
  const trend = useRead<Trend>(`/sites/${site.id}/trend${query({ figure, from, to })}`);
  const catalogue = useRead<CatalogueEntry[]>("/catalogue");
  const set = (name: string, value: string) =>
    setView({ ...Object.fromEntries(view), [name]: value }, { replace: true });
  const areas = [...new Map((catalogue.data ?? []).map((e) => [e.area, e.area_name]))];
  return (
    <>
      <div className="mb-3.5 flex flex-wrap gap-3">
        <Field label="Figure">
          {(c) => (
            <select className={c} value={figure} onChange={(e) => set("figure", e.target.value)}>
              <option value="health">Health</option>
              <option value="findings">Findings</option>
              <option value="pages">Pages scored</option>
              <optgroup label="Severity">
                {["critical", "high", "medium", "low"].map((s) => (
                  <option key={s} value={`severity.${s}`}>
                    Findings, {s}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Area">
                {areas.map(([id, name]) => (
                  <option key={id} value={`area.${id}`}>
                    {name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Check">
                {(catalogue.data ?? []).map((e) => (
                  <option key={e.id} value={`check.${e.id}`}>
                    {e.summary}
                  </option>
                ))}
              </optgroup>
            </select>
          )}
        </Field>
        <Field label="From">
          {(c) => <input type="date" className={c} value={from} onChange={(e) => set("from", e.target.value)} />}
        </Field>
        <Field label="To">
          {(c) => <input type="date" className={c} value={to} onChange={(e) => set("to", e.target.value)} />}
        </Field>
      </div>
      <Loaded query={trend} tall={10}>
        {(data) => <Content trend={data} />}
      </Loaded>
    </>
  );
}

function Content({ trend }: { trend: Trend }) {
  const rows = trend.points.map((p) => ({
    t: new Date(p.at).getTime(),
    value: p.value,
    changed: p.changed,
    state: p.state,
  }));
  const hundred = trend.figure === "health" || trend.figure.startsWith("area.");
  return (
    <>
      <Card title={trend.label} aside={trend.high_is_good ? "high is good" : "low is good"}>
        <p className="mb-2">{trend.words}</p>
        {rows.length === 0 ? (
          <p className="text-ink-3">No runs in that time.</p>
        ) : (
          <div role="img" aria-label={`${trend.label} over ${rows.length} runs: ${trend.words}`} className="h-72">
            <ResponsiveContainer width="100%" height="100%">
              <LineChart data={rows} margin={{ top: 18, right: 24, bottom: 4, left: 0 }}>
                <CartesianGrid stroke="var(--line)" vertical={false} />
                <XAxis
                  dataKey="t"
                  type="number"
                  scale="time"
                  domain={["dataMin", "dataMax"]}
                  ticks={rows.length <= 12 ? rows.map((r) => r.t) : undefined}
                  tickFormatter={(t: number) => day(new Date(t).toISOString())}
                  stroke="var(--ink-3)"
                  fontSize={12}
                />
                <YAxis domain={hundred ? [0, 100] : [0, "auto"]} stroke="var(--ink-3)" fontSize={12} width={44} />
                <Tooltip
                  contentStyle={{ background: "var(--surface)", borderColor: "var(--line-strong)" }}
                  labelFormatter={(t) => moment(new Date(Number(t)).toISOString())}
                  formatter={(v) => [points(v as number), trend.label]}
                />
                {trend.remarks.map((r) => (
                  <ReferenceLine
                    key={r.id}
                    x={new Date(r.day + "T12:00:00").getTime()}
                    ifOverflow="hidden"
                    stroke="var(--bad)"
                    strokeDasharray="3 3"
                    label={{ value: r.text, position: "top", fill: "var(--bad)", fontSize: 12 }}
                  />
                ))}
                {rows
                  .filter((r) => r.changed)
                  .map((r) => (
                    <ReferenceLine
                      key={r.t}
                      x={r.t}
                      stroke="var(--ink-3)"
                      strokeDasharray="1 4"
                      label={{ value: "plan changed", position: "insideBottom", fill: "var(--ink-3)", fontSize: 11 }}
                    />
                  ))}
                <Line
                  dataKey="value"
                  stroke="var(--accent)"
                  strokeWidth={2}
                  dot={{ r: 3.5, fill: "var(--accent)" }}
                  connectNulls={false}
                  isAnimationActive={false}
                />
              </LineChart>
            </ResponsiveContainer>
          </div>
        )}
      </Card>
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-2">
        <Card title="Runs">
          <Table
            rows={[...trend.points].reverse()}
            id={(r) => r.run_id}
            caption="The figure run by run"
            empty="No runs yet."
            columns={[
              { head: "When", cell: (r) => moment(r.at) },
              {
                head: trend.label,
                number: true,
                cell: (r) =>
                  r.value === null
                    ? r.state === "failed"
                      ? "the run failed"
                      : "–"
                    : hundred
                      ? points(r.value)
                      : r.value,
              },
              { head: "", cell: (r) => (r.changed ? "the plan changed" : "") },
            ]}
          />
        </Card>
        <Remarks trend={trend} />
      </div>
    </>
  );
}

function Remarks({ trend }: { trend: Trend }) {
  const { site } = useSite();
  const [values, setValues] = useState({ day: new Date().toISOString().slice(0, 10), text: "" });
  const add = useChange<typeof values>("POST", `/sites/${site.id}/remarks`);
  const remove = useChange<number>("DELETE", (id) => `/remarks/${id}`);
  return (
    <Card title="Remarks" aside="notes pinned to a day">
      <ul className="mb-2">
        {trend.remarks.map((r) => (
          <li key={r.id} className="border-line flex justify-between gap-3 border-b py-1.5">
            <span>
              <b className="font-semibold">{day(r.day)}</b> {r.text}
            </span>
            <LinkButton aria-label={`Remove the remark: ${r.text}`} onClick={() => remove.mutate(r.id)}>
              remove
            </LinkButton>
          </li>
        ))}
        {trend.remarks.length === 0 && (
          <li className="text-ink-3">
            None yet. Note what happened, such as a new theme, so that a jump can be explained later.
          </li>
        )}
      </ul>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate(values, { onSuccess: () => setValues({ ...values, text: "" }) });
        }}
      >
        <Field label="Day">
          {(c) => (
            <input
              className={c}
              type="date"
              required
              value={values.day}
              onChange={(e) => setValues({ ...values, day: e.target.value })}
            />
          )}
        </Field>
        <div className="min-w-40 flex-1">
          <Field label="Remark">
            {(c) => (
              <input
                className={c}
                required
                value={values.text}
                onChange={(e) => setValues({ ...values, text: e.target.value })}
              />
            )}
          </Field>
        </div>
        <Button type="submit" disabled={add.isPending}>
          Add
        </Button>
      </form>
      {add.error && <Trouble error={add.error} />}
    </Card>
  );
}
