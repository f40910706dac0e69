/** The measures of a round over the sites, with ranks and gaps, by what they are about. */
import { Link } from "react-router";
import type { Benchmark } from "../../api/types";
import { useAddress } from "../../lib/address";
import { gap, measure } from "../../lib/words";
import { Card, Chip } from "../../ui/parts";
import { Table } from "../../ui/table";

type Row = Benchmark["rows"][number];

const GROUPS: Record<Row["group"], string> = {
  health: "Health",
  indexing: "Indexing",
  content: "Content",
  links: "Links",
  speed: "Speed",
  https: "HTTPS",
  data: "Structured data",
  mobile: "Small screens",
  languages: "Languages",
};

/** Where the rows are listed that keep the own site from the best figure of a measure; empty when no list says it. */
export function behindLink(data: Benchmark, row: Row): string {
  if (!row.behind || !data.runs?.[0]) return "";
  const of: Record<string, string> = row.of === "page" ? {} : { of: row.of };
  return `/sites/${data.site_id}/inventory?${new URLSearchParams({ run: data.runs[0], ...of, where: row.behind })}`;
}

export function Measures({ data }: { data: Benchmark }) {
  const [view, set] = useAddress();
  const group = view.get("group") ?? "";
  const groups = [...new Set(data.rows.map((row) => row.group))];
  const sampled = (data.sampled ?? []).some(Boolean);
  return (
    <Card
      title="Measures"
      aside={`the best of each row is bold${sampled ? "; below a figure its 95 % interval, where a site was examined in part" : ""}`}
      className="mt-3.5"
    >
      <div role="group" aria-label="What measures are about" className="mb-2 flex flex-wrap gap-1.5">
        {groups.map((name) => (
          <Chip key={name} on={group === name} onClick={() => set("group", group === name ? "" : name)}>
            {GROUPS[name]}
          </Chip>
        ))}
      </div>
      <Table
        rows={group ? data.rows.filter((row) => row.group === group) : data.rows}
        id={(r) => r.id}
        name="measures"
        caption="Measures over the sites"
        empty="No measures."
        columns={[
          {
            head: "Measure",
            sort: (r) => r.name,
            cell: (r) => (
              <>
                {r.name}{" "}
                <span className="text-ink-3 text-sm whitespace-nowrap">{r.high_is_good ? "high" : "low"} is good</span>
              </>
            ),
          },
          ...data.hosts.map((host, i) => ({
            head: host,
            number: true,
            sort: (r: Row) => r.values[i],
            cell: (r: Row) => <Figure row={r} at={i} />,
          })),
          {
            head: "Our rank",
            number: true,
            sort: (r) => r.ranks[0],
            cell: (r) => (r.ranks[0] ? `${r.ranks[0]} of ${r.ranks.filter((x) => x !== null).length}` : "–"),
          },
          { head: "To the best", number: true, sort: (r) => r.gap_to_best, cell: (r) => <Gap data={data} row={r} /> },
          {
            head: "To the median",
            number: true,
            sort: (r) => r.gap_to_median,
            cell: (r) => (isLevel(r) ? "level" : gap(r.gap_to_median, r.unit)),
          },
        ]}
      />
    </Card>
  );
}

function Figure({ row, at }: { row: Row; at: number }) {
  const interval = row.intervals[at];
  return (
    <>
      <span className={row.ranks[at] === 1 ? "font-semibold" : ""}>{measure(row.values[at], row.unit)}</span>
      {interval && (
        <span className="text-ink-3 block text-sm whitespace-nowrap">
          {measure(interval[0], row.unit)} to {measure(interval[1], row.unit)}
        </span>
      )}
    </>
  );
}

/** The distance to the best other site: a difference that does not tell is called level. */
function Gap({ data, row }: { data: Benchmark; row: Row }) {
  if (!row.lead) return <span className="text-ink-3">–</span>;
  if (row.lead === "level") return <span className="text-ink-3">level</span>;
  const to = behindLink(data, row);
  return (
    <>
      <span className={row.lead === "behind" ? "text-bad" : "text-good"}>{gap(row.gap_to_best, row.unit)}</span>
      {to && (
        <Link className="block text-sm underline" to={to} aria-label={`Show what keeps us behind: ${row.name}`}>
          show
        </Link>
      )}
    </>
  );
}

const isLevel = (row: Row) => typeof row.gap_to_median === "number" && Math.abs(row.gap_to_median) < row.resolution;
