/** A sitemap made from the run: which pages it lists, how it looks, and where the site may fetch the latest. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useChange } from "../../../api/change";
import { useMay } from "../../../api/hooks";
import { sitemaps } from "../../../api/queries/sites";
import type { Run, Site, SitemapOptions } from "../../../api/types";
import { bytes, count, day, plural } from "../../../lib/words";
import { controlClass, Labelled, Tick } from "../../../ui/controls";
import { Button, buttonClass, Card, LinkButton, ShownOnce } from "../../../ui/parts";
import { Loaded, Trouble } from "../../../ui/state";
import { Table } from "../../../ui/table";

const USUAL: SitemapOptions = { where: "indexable", images: false, versions: true, packed: false };

export function SitemapCard({ site, run }: { site: Site; run: Run }) {
  const [open, setOpen] = useState(false);
  return (
    <Card
      title="Sitemap"
      className="mt-3.5"
      aside={
        <LinkButton aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Hide" : "Make one"}
        </LinkButton>
      }
    >
      {open ? (
        <Maker site={site} run={run} />
      ) : (
        <p className="text-ink-3">Made from what this run found: to see, to download, or for the site to fetch.</p>
      )}
    </Card>
  );
}

function Maker({ site, run }: { site: Site; run: Run }) {
  const [options, setOptions] = useState(USUAL);
  const [typed, setTyped] = useState(USUAL.where);
  const found = useQuery(sitemaps.preview(run.id, options));
  const set = (change: Partial<SitemapOptions>) => setOptions({ ...options, ...change });
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1fr_1.6fr]">
      <div className="space-y-3">
        <form
          onSubmit={(event) => {
            event.preventDefault();
            set({ where: typed.trim() || USUAL.where });
          }}
        >
          <Labelled label="Pages" hint='A filter of the inventory, such as: indexable and not url contains "/print/"'>
            {(tied) => (
              <span className="flex gap-1.5">
                <input
                  {...tied}
                  className={`${controlClass} font-mono text-sm`}
                  value={typed}
                  onChange={(event) => setTyped(event.target.value)}
                />
                {typed.trim() !== options.where && <Button type="submit">Show</Button>}
              </span>
            )}
          </Labelled>
        </form>
        {(
          [
            ["images", "Images of the pages"],
            ["versions", "Versions in other languages"],
            ["packed", "Compress the parts of an index"],
          ] as const
        ).map(([name, label]) => (
          <label key={name} className="flex min-h-[24px] items-center gap-2">
            <Tick label={label} checked={options[name] === true} onChange={(on) => set({ [name]: on })} />
            {label}
          </label>
        ))}
        <p>
          <a className={`${buttonClass(true)} no-underline`} href={sitemaps.download(run.id, options)} download>
            Download
          </a>
        </p>
        <Published site={site} options={options} />
      </div>
      <Loaded query={found} tall={8}>
        {(data) => (
          <div className="min-w-0">
            <p className="mb-1.5">
              {plural(data.pages, "page")}, {count(data.dated)} with the day of the last change.
            </p>
            <Table
              rows={data.files}
              id={(row) => row.name}
              caption="Files of the sitemap"
              empty=""
              columns={[
                { head: "File", cell: (row) => <span className="font-mono text-sm">{row.name}</span> },
                { head: "Entries", number: true, cell: (row) => count(row.entries) },
                { head: "Size", number: true, cell: (row) => bytes(row.size_bytes) },
              ]}
            />
            <pre
              tabIndex={0}
              role="region"
              aria-label="How the sitemap begins"
              className="bg-paper border-line mt-2 max-h-64 overflow-auto rounded-md border p-2 font-mono text-sm"
            >
              {data.text}
            </pre>
          </div>
        )}
      </Loaded>
    </div>
  );
}

/** The address from which the site fetches its sitemap, made anew from its latest run each time. */
function Published({ site, options }: { site: Site; options: SitemapOptions }) {
  const may = useMay();
  const known = useQuery({ ...sitemaps.published(site.id), retry: false });
  const publish = useChange(sitemaps.publish(site.id));
  const withdraw = useChange(sitemaps.withdraw(site.id));
  // There is none any more once it was withdrawn: what was read before is left aside.
  const there = known.isError ? undefined : known.data;
  const error = publish.error ?? withdraw.error;
  if (!may("publish_sitemap")) return null;
  return (
    <div className="border-line border-t pt-2.5">
      <h3 className="font-semibold">For the site to fetch</h3>
      <p className="text-ink-2 my-1">
        {there
          ? `Published ${day(there.created_at)}, ${there.read_at ? `fetched last ${day(there.read_at)}` : "not fetched yet"}; lists ${there.options.where}.`
          : "An address that always answers with a sitemap of the latest run."}
      </p>
      {publish.data?.url && (
        <ShownOnce code={publish.data.url}>Fetch it from here. The address is shown only now:</ShownOnce>
      )}
      {error && <Trouble error={error} />}
      <p className="flex gap-4">
        <LinkButton disabled={publish.isPending} onClick={() => publish.mutate(options)}>
          {there ? "Publish anew, under another address" : "Publish"}
        </LinkButton>
        {there && (
          <LinkButton disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
            Withdraw
          </LinkButton>
        )}
      </p>
    </div>
  );
}
