import { Link } from "react-router";
import type { Desk } from "../../api/types";
import { count, signed } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Severity } from "../../ui/signs";

/** What happened since the last working day: events by weight, to-dos that runs judged, what rose on several clients' sites. */
export function News({ desk }: { desk: Desk }) {
  const since = new Date(desk.since).toLocaleDateString("en-GB", { weekday: "long" });
  return (
    <>
      {desk.patterns.length > 0 && (
        <Card title="On several clients' sites" aside="the cause may lie beyond one site">
          <ul>
            {desk.patterns.map((pattern) => (
              <li key={pattern.check} className="border-line border-b py-2 last:border-b-0">
                <span className="flex flex-wrap items-baseline gap-x-2">
                  <Severity name={pattern.severity} />
                  <Link to={`/catalogue#${pattern.check}`} className="text-ink font-semibold">
                    {pattern.summary}
                  </Link>
                </span>
                <span className="text-ink-2 block text-sm">
                  rose on {pattern.sites.length} sites since{" "}
                  {new Date(pattern.since).toLocaleDateString("en-GB", { weekday: "long" })}:{" "}
                  {pattern.sites.map((site, i) => (
                    <span key={site.site_id}>
                      {i > 0 && ", "}
                      <Link to={`/sites/${site.site_id}/checks/${pattern.check}`}>{site.client_name}</Link> +
                      {count(site.findings)}
                    </span>
                  ))}
                </span>
              </li>
            ))}
          </ul>
        </Card>
      )}
      {desk.events.length > 0 && (
        <Card title={`Since ${since}`} aside="points of health">
          <ul>
            {desk.events.map((event, i) => (
              <li key={i} className="border-line flex gap-3 border-b py-1.5 last:border-b-0">
                <b
                  className={`w-11 shrink-0 text-right font-semibold tabular-nums ${(event.shown ?? 0) < 0 ? "text-bad" : "text-good"}`}
                >
                  {signed(event.shown)}
                </b>
                <span className="min-w-0">
                  <Link to={event.link} className="text-ink break-words">
                    {event.title}
                  </Link>
                  <span className="text-ink-3 block text-sm">
                    {event.client_name}
                    {event.detail && ` · ${event.detail}`}
                  </span>
                </span>
              </li>
            ))}
          </ul>
          {desk.more_events > 0 && (
            <p className="text-ink-3 mt-1.5 text-sm">{desk.more_events} more, on the sites&apos; Changes.</p>
          )}
        </Card>
      )}
      {desk.judged.length > 0 && (
        <Card title="To-dos judged by runs" aside={`since ${since}`}>
          <ul>
            {desk.judged.map((todo) => (
              <li key={todo.todo_id} className="border-line border-b py-1.5 last:border-b-0">
                <span className={todo.reopened ? "text-bad" : "text-good"}>
                  {todo.reopened ? "↺ opened again" : "▼ confirmed"}
                </span>{" "}
                <Link to={`/todos/${todo.todo_id}`} className="text-ink break-words">
                  {todo.title}
                </Link>
                <span className="text-ink-3 block text-sm">
                  {todo.client_name} · {todo.text}
                </span>
              </li>
            ))}
          </ul>
        </Card>
      )}
    </>
  );
}
