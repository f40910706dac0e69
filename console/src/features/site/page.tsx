import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { pages } from "../../api/queries/runs";
import { sites } from "../../api/queries/sites";
import type { Look, Page } from "../../api/types";
import { age, bytes, count, day, moment, place, plural, points } from "../../lib/words";
import { Address, Button, Card, Title } from "../../ui/parts";
import { Change, Course, Severity } from "../../ui/signs";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSite } from "./context";
import { PageRuns } from "./history";
import { Source } from "./in-source";
import { NoRun } from "./no-run";
import { Waive } from "./waive";

export function PageScreen() {
  const { site, run } = useSite();
  const [view] = useSearchParams();
  const url = view.get("url") ?? "";
  const page = useQuery({ ...pages.one(run?.id ?? "", url), enabled: run !== null });
  if (!run) return <NoRun site={site} />;
  return (
    <Loaded query={page} tall={14}>
      {(data) => <Content page={data} />}
    </Loaded>
  );
}

function Content({ page }: { page: Page }) {
  const { site, run } = useSite();
  const now = new Date(run?.requested_at ?? 0);
  const may = useMay();
  const look = useChange(sites.look(site.id));
  const isFile = page.role === "file";
  const linksIn = page.links_in ?? [];
  return (
    <>
      <Title of={[place(page.url, site.host), site.host]} />
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-mono text-base font-semibold break-all">{page.url}</h2>
        <span className="flex items-center gap-3">
          <a href={page.url} target="_blank" rel="noreferrer">
            Open page
          </a>
          {may("look_at_page") && (
            <Button disabled={look.isPending} onClick={() => look.mutate({ url: page.url })}>
              {look.isPending ? "Fetching…" : "Fetch again"}
            </Button>
          )}
        </span>
      </div>
      {look.error && <Trouble error={look.error} />}
      {look.data && <Looked look={look.data} />}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <Card title="Facts">
          <Facts page={page} />
        </Card>
        <div className="min-w-0 space-y-3.5">
          <Card title="Search result preview">
            <div className="max-w-xl">
              <div className="text-ink-3 truncate text-sm">{page.url}</div>
              <div className="text-accent text-[18px] leading-6">{page.title || "(no title)"}</div>
              <div className="text-ink-2">
                {page.description || "(no meta description: search engines show text from the page)"}
              </div>
              {typeof page.title_px === "number" && (
                <p className="text-ink-3 mt-1 text-sm">
                  Title {count(page.title_px)} pixels wide, description {count(page.description_px)}
                </p>
              )}
            </div>
          </Card>
          {(page.path ?? []).length > 1 && (
            <Card title="Redirect path">
              <ol className="list-decimal pl-5">
                {(page.path ?? []).map((hop) => (
                  <li key={hop.url}>
                    <Address text={hop.url} chars={70} /> {hop.status ?? hop.failure}
                  </li>
                ))}
              </ol>
            </Card>
          )}
          <Card title="Headings">
            {(page.headings ?? []).length === 0 ? (
              <p className="text-ink-3">The page has no headings.</p>
            ) : (
              <ul>
                {(page.headings ?? []).map(([level, text], i) => (
                  <li key={i} style={{ paddingLeft: (level - 1) * 16 }}>
                    <span className="text-ink-3 text-sm">H{level}</span> {text || <i>empty</i>}
                  </li>
                ))}
              </ul>
            )}
          </Card>
        </div>
      </div>
      <Card title="Findings" className="mt-3.5">
        <Table
          rows={page.findings ?? []}
          id={(r) => r.id}
          caption="Findings on this page"
          empty="All checks pass on this page."
          columns={[
            { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
            { head: "Check", cell: (r) => <Link to={`/sites/${site.id}/checks/${r.check}`}>{r.summary}</Link> },
            {
              head: "Finding",
              cell: (r) => (
                <span className="break-words">
                  {r.message}
                  {r.waived && <span className="text-ink-3"> (waived)</span>}
                  {r.source && (
                    <details>
                      <summary className="text-accent cursor-pointer text-sm">Source</summary>
                      <Source source={r.source} />
                    </details>
                  )}
                </span>
              ),
            },
            { head: "Since", cell: (r) => <span className="whitespace-nowrap">{age(r.since, now)}</span> },
            {
              head: "Waive",
              quiet: true,
              cell: (r) =>
                may("add_waivers") &&
                !r.waived && <Waive quiet check={r.check} summary={r.summary} findings={[r]} label="Waive" />,
            },
          ]}
        />
      </Card>
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-2">
        <Card
          title={
            isFile ? `Used on (${plural(linksIn.length, "page")})` : `Links in (${plural(page.inlinks ?? 0, "page")})`
          }
        >
          <ul
            className="max-h-72 overflow-y-auto [&_a]:inline-block [&_a]:min-h-[24px] [&_a]:leading-[24px]"
            tabIndex={0}
          >
            {linksIn.map((url) => (
              <li key={url}>
                <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(url)}`}>
                  <Address text={place(url, site.host)} chars={70} />
                </Link>
              </li>
            ))}
            {linksIn.length === 0 && (
              <li className="text-ink-3">
                {isFile ? "No page of the site uses it." : "No page of the site links here."}
              </li>
            )}
          </ul>
        </Card>
        <Card title={`Links and files out (${(page.links_out ?? []).length})`}>
          <ul
            className="max-h-72 overflow-y-auto [&_a]:inline-block [&_a]:min-h-[24px] [&_a]:leading-[24px]"
            tabIndex={0}
          >
            {(page.links_out ?? []).map((link, i) => (
              <li key={i}>
                <span className="text-ink-3 text-sm">
                  {link.kind} {link.status ?? ""}
                </span>{" "}
                <Address text={place(link.url, site.host)} chars={60} /> <span className="text-ink-2">{link.text}</span>
              </li>
            ))}
          </ul>
        </Card>
      </div>
      <PageRuns siteId={site.id} url={page.url} />
      <Card title="Response headers" className="mt-3.5">
        <dl className="grid grid-cols-[max-content_1fr] gap-x-4 font-mono text-sm">
          {(page.headers ?? []).map(([name, value], i) => [
            <dt key={`k${i}`} className="text-ink-3">
              {name}
            </dt>,
            <dd key={`v${i}`} className="break-all">
              {value}
            </dd>,
          ])}
        </dl>
      </Card>
    </>
  );
}

/** What a fresh look at the page found, against the last run. */
function Looked({ look }: { look: Look }) {
  return (
    <Card className="mb-3.5" title="Fetched again just now" aside={`against the run of ${moment(look.run_at)}`}>
      <p role="status" className="mb-2">
        {look.page.status ?? look.page.failure} · {plural(look.page.words ?? 0, "word")} ·{" "}
        {look.changes.length ? plural(look.changes.length, "fact") + " changed" : "its facts are as in the last run"}
      </p>
      {look.changes.map((c) => (
        <p key={c.field} className="break-words">
          <b>{c.field}</b>: {c.base} → {c.head}
        </p>
      ))}
      <Table
        rows={look.findings}
        id={(r) => r.fingerprint}
        caption="Findings now and in the last run"
        empty="All checks pass on this page, before and now."
        columns={[
          { head: "Class", cell: (r) => <Change name={r.change} /> },
          { head: "Severity", cell: (r) => <Severity name={r.severity} /> },
          { head: "Check", cell: (r) => r.summary },
          { head: "Finding", cell: (r) => <span className="break-words">{r.message}</span> },
        ]}
      />
    </Card>
  );
}

function Facts({ page }: { page: Page }) {
  const rows: [string, React.ReactNode][] = [
    [
      "Health",
      page.health === null || page.health === undefined ? (
        "not scored"
      ) : (
        <span className="flex items-center gap-2">
          <Course health={page.health} brick={5} /> {points(page.health)} of 100, high is good
        </span>
      ),
    ],
    ["Answer", `${page.status ?? page.failure ?? "none"} · ${page.content_type ?? ""}`],
    ...(page.why_not === null || page.why_not === undefined
      ? []
      : ([["Indexable", page.why_not === "" ? "yes" : `no: ${page.why_not}`]] as [string, React.ReactNode][])),
    ["Blocked by", page.rule || "nothing"],
    ["Canonical", page.canonical ? <Address text={page.canonical} chars={60} /> : "none"],
    ["Robots directives", (page.robots ?? []).join(", ") || "none"],
    [
      "Language, encoding",
      `${page.lang || "not declared"}, ${page.encoding || "–"}${page.encoding_source ? ` (by ${page.encoding_source})` : ""}`,
    ],
    ["Server", page.remote ? `${page.remote}, HTTP/${page.http_version}` : "–"],
    ...(page.tls?.version
      ? ([
          ["Certificate", `${page.tls.version}, of ${page.tls.issuer || "–"}, valid until ${day(page.tls.not_after)}`],
        ] as [string, React.ReactNode][])
      : []),
    ["Words in the main text", count(page.words)],
    ["Click depth", count(page.depth)],
    ["In a sitemap", page.listed ? "yes" : "no"],
    [
      "Size, first byte",
      `${bytes(page.decoded_bytes)}, ${page.first_byte_ms == null ? "not measured" : `${points(page.first_byte_ms)} ms`}`,
    ],
    ["Structured data", (page.data_types ?? []).join(", ") || "none"],
  ];
  return (
    <dl className="grid grid-cols-[max-content_1fr] gap-x-4 gap-y-1">
      {rows.map(([name, value]) => [
        <dt key={name} className="text-ink-3">
          {name}
        </dt>,
        <dd key={`${name}-v`} className="min-w-0 break-words">
          {value}
        </dd>,
      ])}
    </dl>
  );
}
