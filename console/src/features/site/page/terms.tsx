/** The terms that a page repeats, with where they stand, and a term that somebody wants it to be found by. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { pages } from "../../../api/queries/runs";
import type { FocusTerm, Term } from "../../../api/types";
import { useAddress } from "../../../lib/address";
import { count, plural, points } from "../../../lib/words";
import { controlClass, Segments } from "../../../ui/controls";
import { Button } from "../../../ui/parts";
import { Loaded } from "../../../ui/state";
import { Table } from "../../../ui/table";

export function MainTerms({ url, runId }: { url: string; runId: string }) {
  const [view, set] = useAddress();
  const focus = view.get("focus") ?? "";
  const [typed, setTyped] = useState(focus);
  const [size, setSize] = useState<"1" | "2" | "3">("1");
  const found = useQuery(pages.terms(runId, url, focus));
  return (
    <>
      <form
        className="mb-2.5 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          set("focus", typed.trim());
        }}
      >
        <input
          aria-label="Focus term"
          placeholder="A term the page should be found by"
          className={`${controlClass} !w-72`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Button type="submit">Look for it</Button>
      </form>
      <Loaded query={found} tall={8}>
        {(data) => (
          <>
            {data.focus && <Focus focus={data.focus} />}
            <div className="mb-1.5 flex flex-wrap items-center gap-3">
              <Segments
                label="Words of a term"
                value={size}
                onChange={setSize}
                choices={[
                  { value: "1", label: "one word" },
                  { value: "2", label: "two words" },
                  { value: "3", label: "three words" },
                ]}
              />
              <span className="text-ink-3 text-sm">{plural(data.words, "word")} in the main text</span>
            </div>
            <Table
              rows={data.terms.filter((term) => term.words === Number(size))}
              id={(row) => row.text}
              caption="Terms that the main text repeats"
              empty="No term of so many words stands twice in the main text."
              columns={[
                { head: "Term", cell: (row) => row.text },
                { head: "In the text", number: true, cell: (row) => count(row.count) },
                { head: "Share", number: true, cell: (row) => `${points(row.share)} %` },
                ...PLACES.map(([name, head]) => ({
                  head,
                  number: true,
                  cell: (row: Term) => <Times n={row[name]} />,
                })),
              ]}
            />
          </>
        )}
      </Loaded>
    </>
  );
}

const PLACES = [
  ["title", "Title"],
  ["h1", "H1"],
  ["headings", "Headings"],
  ["alts", "Alt texts"],
  ["anchors", "Links in"],
] as const;

const Times = ({ n }: { n: number }) => (n ? count(n) : <span className="text-ink-3">–</span>);

/** Where the focus term stands, and where it does not. */
function Focus({ focus }: { focus: FocusTerm }) {
  const { term } = focus;
  const places: [string, number][] = [
    ["title", term.title],
    ["H1", term.h1],
    ["meta description", focus.description],
    ["first 100 words", focus.beginning],
    ["headings", term.headings],
    ["URL", focus.url],
    ["alt texts", term.alts],
    ["links in", term.anchors],
  ];
  return (
    <div role="status" className="bg-sunk mb-3 rounded-md px-3 py-2">
      <p>
        <b className="font-semibold">“{term.text}”</b> stands {plural(term.count, "time")} in the main text,{" "}
        {points(term.share)} % of its words.
      </p>
      <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-0.5">
        {places.map(([name, n]) => (
          <li key={name} className={n ? "" : "text-bad"}>
            <span aria-hidden="true">{n ? "■" : "□"}</span> {name}: {n ? count(n) : "not there"}
          </li>
        ))}
      </ul>
    </div>
  );
}
