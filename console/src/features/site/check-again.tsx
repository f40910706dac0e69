/** Pages that are chosen, fetched and examined now, against the last run. */
import { useState } from "react";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { pages } from "../../api/queries/runs";
import type { LookBrief } from "../../api/types";
import { count, plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Address, Button, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { Table } from "../../ui/table";

const AT_ONCE = 25;

export function CheckAgain({ siteId, urls }: { siteId: number; urls: readonly string[] }) {
  const [open, setOpen] = useState(false);
  const may = useMay();
  const look = useChange(pages.lookAtSeveral(siteId));
  if (!may("look_at_pages")) return null;
  const wanted = urls.slice(0, AT_ONCE);
  return (
    <>
      <LinkButton
        onClick={() => {
          setOpen(true);
          look.mutate([...wanted]);
        }}
      >
        Check again now
      </LinkButton>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={`Check ${plural(wanted.length, "page")} again`}
        description={
          urls.length > AT_ONCE
            ? `The first ${AT_ONCE} of ${count(urls.length)}; for more, run an audit.`
            : "Fetched now and set against the last run, which stays as it is."
        }
      >
        {look.isPending && <p role="status">Fetching, one page after the other…</p>}
        {look.error && <Trouble error={look.error} />}
        {look.data && <Looked rows={look.data} siteId={siteId} />}
        <div className="mt-3">
          <Button onClick={() => setOpen(false)}>Close</Button>
        </div>
      </Dialog>
    </>
  );
}

function Looked({ rows, siteId }: { rows: readonly LookBrief[]; siteId: number }) {
  return (
    <Table
      rows={rows}
      id={(row) => row.url}
      caption="What was found now"
      empty=""
      columns={[
        {
          head: "Page",
          cell: (row) => (
            <Link to={`/sites/${siteId}/page?url=${encodeURIComponent(row.url)}`}>
              <Address text={row.url} chars={48} />
            </Link>
          ),
        },
        { head: "Status", number: true, cell: (row) => row.status ?? "–" },
        { head: "Fixed", number: true, cell: (row) => <span className="text-good">{count(row.fixed)}</span> },
        {
          head: "New",
          number: true,
          cell: (row) => <span className={row.new ? "text-bad" : ""}>{count(row.new)}</span>,
        },
        { head: "Still there", number: true, cell: (row) => count(row.still) },
        {
          head: "Changed",
          cell: (row) => (row.error ? <span className="text-bad">{row.error}</span> : row.changed.join(", ")),
        },
      ]}
    />
  );
}
