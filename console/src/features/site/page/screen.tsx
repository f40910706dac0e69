/** Everything known of one URL: what is wrong and how to fix it, how it stands in results, its facts, and all that leads to it and from it. */
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { useChange } from "../../../api/change";
import { useMay } from "../../../api/hooks";
import { pages } from "../../../api/queries/runs";
import { sites } from "../../../api/queries/sites";
import type { Look, Page } from "../../../api/types";
import { useAddress } from "../../../lib/address";
import { count, moment, place, plural } from "../../../lib/words";
import { Tabs } from "../../../ui/controls";
import { Button, buttonClass, Card, Title } from "../../../ui/parts";
import { Change, Severity } from "../../../ui/signs";
import { Loaded, Trouble } from "../../../ui/state";
import { Table } from "../../../ui/table";
import { useSite } from "../context";
import { PageRuns } from "../history";
import { MakeTodo } from "../make-todo";
import { NoRun } from "../no-run";
import { PageDataTree } from "./data";
import { PageFacts } from "./facts";
import { PageFindings } from "./findings";
import { LanguageMatrix } from "./languages";
import { FilesOut, LinksIn, LinksOut } from "./links";
import { FromOutside } from "./outside";
import { ShownSource } from "./source";
import { SnippetCard } from "./snippet";
import { MainTerms } from "./terms";
import { WayThere } from "./way";

export function PageScreen() {
  const { site, run } = useSite();
  const [view] = useSearchParams();
  const url = view.get("url") ?? "";
  const page = useQuery({ ...pages.one(run?.id ?? "", url), enabled: run !== null });
  if (!run) return <NoRun site={site} />;
  return (
    <Loaded query={page} tall={14}>
      {(data) => <Content key={data.url} page={data} runId={run.id} />}
    </Loaded>
  );
}

function Content({ page, runId }: { page: Page; runId: string }) {
  const { site } = useSite();
  const may = useMay();
  const look = useChange(sites.look(site.id));
  const isDocument = typeof page.title_px === "number";
  const open = (page.findings ?? []).filter((finding) => !finding.waived);
  return (
    <>
      <Title of={[place(page.url, site.host), site.host]} />
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-mono text-base font-semibold break-all">{page.url}</h2>
        <span className="flex flex-wrap items-center gap-2">
          <a href={page.url} target="_blank" rel="noreferrer" className={buttonClass()}>
            Open page
          </a>
          {may("look_at_page") && page.role !== "external" && (
            <Button disabled={look.isPending} onClick={() => look.mutate({ url: page.url })}>
              {look.isPending ? "Fetching…" : "Check again now"}
            </Button>
          )}
          {may("add_todo") && (
            <MakeTodo
              main
              site={site}
              fingerprints={open.map((finding) => finding.fingerprint)}
              title={`${plural(open.length, "finding")} on ${place(page.url, site.host)}`.slice(0, 300)}
              label="Create to-do"
              disabled={open.length === 0}
            />
          )}
        </span>
      </div>
      {look.error && <Trouble error={look.error} />}
      {look.data && <Looked look={look.data} />}
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_1.08fr]">
        <PageFindings page={page} />
        <div className="min-w-0 space-y-3.5">
          {isDocument && <SnippetCard page={page} />}
          {may("get_page_figures") && page.role === "page" && <FromOutside site={site} url={page.url} />}
          <PageFacts page={page} />
        </div>
      </div>
      <Details page={page} runId={runId} isDocument={isDocument} />
    </>
  );
}

function Details({ page, runId, isDocument }: { page: Page; runId: string; isDocument: boolean }) {
  const { site } = useSite();
  const [view, set] = useAddress();
  const files = (page.links_out ?? []).filter((link) => link.kind !== "anchor" && link.kind !== "image-link").length;
  const links = (page.links_out ?? []).length - files;
  const isFile = page.role === "file";
  const views = [
    {
      value: "in",
      label: isFile ? `Used on ${count((page.links_in ?? []).length)}` : `Links in ${count(page.inlinks ?? 0)}`,
      shown: <LinksIn url={page.url} runId={runId} />,
    },
    ...(isDocument
      ? [
          { value: "out", label: `Links out ${count(links)}`, shown: <LinksOut url={page.url} runId={runId} /> },
          { value: "files", label: `Files ${count(files)}`, shown: <FilesOut url={page.url} runId={runId} /> },
          { value: "headings", label: "Headings", shown: <Headings headings={page.headings ?? []} /> },
          { value: "terms", label: "Main terms", shown: <MainTerms url={page.url} runId={runId} /> },
          { value: "data", label: "Structured data", shown: <PageDataTree url={page.url} runId={runId} /> },
          { value: "languages", label: "Languages", shown: <LanguageMatrix url={page.url} runId={runId} /> },
          { value: "source", label: "Source", shown: <ShownSource url={page.url} runId={runId} /> },
        ]
      : []),
    ...(page.role === "page"
      ? [{ value: "way", label: "Way there", shown: <WayThere url={page.url} runId={runId} /> }]
      : []),
    { value: "headers", label: "Headers", shown: <Headers headers={page.headers ?? []} /> },
    { value: "runs", label: "Over the runs", shown: <PageRuns siteId={site.id} url={page.url} /> },
  ];
  const chosen = views.find((each) => each.value === view.get("tab")) ?? views[0];
  if (!chosen) return null;
  return (
    <Card className="mt-3.5">
      <Tabs
        label="More about the page"
        value={chosen.value}
        onChange={(value) => set("tab", value === views[0]?.value ? "" : value)}
        views={views}
      >
        {chosen.shown}
      </Tabs>
    </Card>
  );
}

/** The outline. A level that is left out is marked where it is missing. */
function Headings({ headings }: { headings: [number, string][] }) {
  if (headings.length === 0) return <p className="text-ink-3">The page has no headings.</p>;
  return (
    <ul>
      {headings.map(([level, text], i) => {
        const before = headings[i - 1]?.[0] ?? 0;
        return (
          <li key={i} style={{ paddingLeft: (level - 1) * 16 }} className="py-px">
            <span className="text-ink-3 text-sm">H{level}</span> {text || <i>empty</i>}
            {level > before + 1 && (
              <span className="text-bad text-sm">
                {" "}
                {before === 0 ? `begins with H${level}` : `skips H${before + 1}`}
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function Headers({ headers }: { headers: [string, string][] }) {
  if (headers.length === 0) return <p className="text-ink-3">It gave no answer, so there are no headers.</p>;
  return (
    <dl className="grid grid-cols-[max-content_1fr] gap-x-4 font-mono text-sm">
      {headers.map(([name, value], i) => [
        <dt key={`k${i}`} className="text-ink-3">
          {name}
        </dt>,
        <dd key={`v${i}`} className="break-all">
          {value}
        </dd>,
      ])}
    </dl>
  );
}

/** What a fresh look at the page found, against the last run. */
function Looked({ look }: { look: Look }) {
  return (
    <Card className="mb-3.5" title="Checked again just now" aside={`against the run of ${moment(look.run_at)}`}>
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
