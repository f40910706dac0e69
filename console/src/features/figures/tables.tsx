/** What there is of figures, and the tables they come in: chosen or dropped here, looked at, and then imported. */
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { figures } from "../../api/queries/figures";
import type { FigureFile, FigureSet, Site } from "../../api/types";
import { base64Of } from "../../lib/base64";
import { count, day, moment, plural } from "../../lib/words";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { Domain, Feeds } from "./feeds";
import { outcomeWords } from "./outcome";
import { KINDS } from "./kinds";
import { Waiting } from "./mapping";

const LARGEST = 23 * 1024 * 1024;

export function Tables({ site }: { site: Site }) {
  const may = useMay();
  const sets = useQuery(figures.sets(site.id));
  const tables = useQuery(figures.tables(site.id));
  return (
    <div className="grid gap-4">
      {may("add_figure_file") && <Add site={site} />}
      <Loaded query={tables} tall={4}>
        {(rows) => (
          <>
            {rows
              .filter((row) => row.stage === "waiting")
              .map((row) => (
                <Waiting key={row.id} site={site} id={row.id} />
              ))}
            <Card title="What there is">
              <Loaded query={sets} tall={3}>
                {(found) => <Sets rows={found} />}
              </Loaded>
            </Card>
            {may("list_figure_feeds") && <Feeds site={site} />}
            <Imported site={site} rows={rows.filter((row) => row.stage === "imported")} />
            <Domain site={site} />
          </>
        )}
      </Loaded>
    </div>
  );
}

function Sets({ rows }: { rows: FigureSet[] }) {
  return (
    <Table
      rows={rows}
      id={(row) => row.kind}
      caption="Figures there are"
      empty="No figures yet. Choose a table above: columns are recognised, and nothing is imported before you have seen how it is understood."
      columns={[
        { head: "Figures", cell: (row) => KINDS[row.kind] },
        { head: "Rows", number: true, cell: (row) => count(row.rows) },
        { head: "From", cell: (row) => day(row.first) },
        { head: "To", cell: (row) => day(row.last) },
        { head: "Source", className: "wrap-anywhere", cell: (row) => (row.sources ?? []).join(", ") },
      ]}
    />
  );
}

function Add({ site }: { site: Site }) {
  const add = useChange(figures.add(site.id));
  const say = useSay();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    const packed = await packedBytes(file);
    if (packed.byteLength > LARGEST) {
      say(`${file.name} is larger than 23 MiB, even packed. Import it in parts.`);
      return;
    }
    sendThen(add, { name: file.name, content: base64Of(packed) }, () => undefined);
  };
  return (
    <div
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void take(event.dataTransfer.files[0]);
      }}
    >
      <Card title="Import a table" className={over ? "outline-accent outline-2" : ""}>
        <p className="text-ink-2 mb-2 max-w-prose">
          CSV or XLSX, with headings: search figures, visits, positions of keywords, links from other sites, or figures
          of the site as a whole. You see how it is understood before anything is imported.
        </p>
        <input
          ref={input}
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.gz"
          aria-label="Table of figures"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button main disabled={add.isPending} onClick={() => input.current?.click()}>
          {add.isPending ? "Reading…" : "Choose a table…"}
        </Button>{" "}
        <span className="text-ink-3 text-sm">or drop it here</span>
        {add.error && <Trouble error={add.error} />}
      </Card>
    </div>
  );
}

/** A file as it is sent: text is packed on the way, where the browser can; a workbook is packed already. */
async function packedBytes(file: File): Promise<ArrayBuffer> {
  if (/\.(xlsx|gz)$/i.test(file.name) || typeof CompressionStream === "undefined") return file.arrayBuffer();
  return new Response(file.stream().pipeThrough(new CompressionStream("gzip"))).arrayBuffer();
}

function Imported({ site, rows }: { site: Site; rows: FigureFile[] }) {
  const may = useMay();
  const remove = useChange(figures.remove(site.id));
  return (
    <Card title="Imported tables">
      {remove.error && <Trouble error={remove.error} />}
      <Table
        rows={rows}
        id={(row) => row.id}
        caption="Tables that were imported"
        empty="None yet."
        columns={[
          { head: "Table", className: "wrap-anywhere", cell: (row) => row.name },
          { head: "Figures", cell: (row) => KINDS[row.kind] },
          {
            head: "Rows",
            cell: (row) => (row.outcome ? outcomeWords(row.outcome) : ""),
          },
          {
            head: "Days",
            cell: (row) => (row.outcome?.first ? `${day(row.outcome.first)} to ${day(row.outcome.last)}` : ""),
          },
          { head: "Imported", cell: (row) => `${moment(row.at)}${row.author ? `, ${row.author}` : ""}` },
          {
            head: "What to do",
            quiet: true,
            cell: (row) =>
              may("remove_figure_file") && (
                <LinkButton
                  aria-label={`Forget the table ${row.name}`}
                  title="Its figures stay"
                  onClick={() => remove.mutate(row.id)}
                >
                  forget
                </LinkButton>
              ),
          },
        ]}
      />
      {rows.length > 0 && (
        <p className="text-ink-3 mt-1 text-sm">
          {plural(rows.length, "table")}. Figures stay when a table is forgotten.
        </p>
      )}
    </Card>
  );
}
