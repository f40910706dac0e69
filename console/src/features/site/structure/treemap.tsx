/** Branches as areas: the size is the number of pages, the colour their health. */
import { hierarchy, type HierarchyRectangularNode, treemap } from "d3-hierarchy";
import type { RefObject } from "react";
import type { Branch } from "../../../api/types";
import { plural, points } from "../../../lib/words";

const WIDTH = 600;
const HEIGHT = 360;
const HEAD = 24;
const SHOWN = 60;
const LETTER_PX = 7.2;

/** From which health on each colour is used, the best first: one hue, the darker the worse. */
export const HEALTH_STEPS = [
  { from: 95, fill: "--accent-soft", ink: "--ink", label: "95 and more" },
  { from: 85, fill: "--low", ink: "--ink", label: "85 to 95" },
  { from: 70, fill: "--medium", ink: "--brick-ink", label: "70 to 85" },
  { from: 0, fill: "--high", ink: "--brick-ink-strong", label: "under 70" },
  { from: -1, fill: "--sunk", ink: "--ink", label: "not scored" },
] as const;

const FRAME = { fill: "--sunk", ink: "--ink" };
const NOT_SCORED = { fill: "--sunk", ink: "--ink" };
const stepOf = (health: number | null) => HEALTH_STEPS.find((step) => (health ?? -1) >= step.from) ?? NOT_SCORED;

type Node = { key: string; branch: Branch | null; pages: number; children?: Node[] };

/** The branches as a tree of two levels, with what lies in a branch beside the parts that are told. */
function treeOf(branches: readonly Branch[]): Node {
  const ranked = [...branches].sort((a, b) => b.pages - a.pages);
  const children = ranked.slice(0, SHOWN).map((branch): Node => {
    const own: Node = { key: branch.where, branch, pages: branch.pages };
    const parts = branch.parts ?? [];
    if (parts.length < 2) return own;
    const told = parts.reduce((sum, part) => sum + part.pages, 0);
    return {
      ...own,
      children: [
        ...parts.map((part, n): Node => ({ key: `${branch.where} ${n}`, branch: part, pages: part.pages })),
        ...(told < branch.pages ? [{ key: `${branch.where} rest`, branch: null, pages: branch.pages - told }] : []),
      ],
    };
  });
  const rest = ranked.slice(SHOWN).reduce((sum, branch) => sum + branch.pages, 0);
  if (rest > 0) children.push({ key: "rest", branch: null, pages: rest });
  return { key: "all", branch: null, pages: 0, children };
}

export function Treemap({
  svg,
  branches,
  below,
  onOpen,
  label,
}: {
  svg: RefObject<SVGSVGElement | null>;
  branches: readonly Branch[];
  below: string;
  onOpen: (branch: Branch) => void;
  label: string;
}) {
  const root = treemap<Node>()
    .size([WIDTH, HEIGHT])
    .paddingInner(2)
    .paddingTop((node) => (node.depth === 1 && node.children ? HEAD : 0))
    .round(true)(hierarchy(treeOf(branches)).sum((node) => (node.children ? 0 : node.pages)));
  return (
    <svg ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full min-w-[34rem]" role="group" aria-label={label}>
      {root
        .descendants()
        .filter((node) => node.depth > 0)
        .map((node) => (
          <Area
            key={node.data.key}
            node={node}
            below={node.depth === 1 ? below : (node.parent?.data.branch?.name ?? below)}
            onOpen={onOpen}
          />
        ))}
    </svg>
  );
}

function Area({
  node,
  below,
  onOpen,
}: {
  node: HierarchyRectangularNode<Node>;
  below: string;
  onOpen: (branch: Branch) => void;
}) {
  const { branch } = node.data;
  const pages = node.value ?? 0;
  const [width, height] = [node.x1 - node.x0, node.y1 - node.y0];
  const step = node.children ? FRAME : stepOf(branch ? branch.health : null);
  const name = branch ? nameOf(branch, below) : "all others";
  const words = `${name}: ${plural(pages, "page")}, ${
    branch && branch.health !== null ? `health ${points(branch.health)}` : "not scored"
  }`;
  const area = (
    <>
      <title>{words}</title>
      <rect width={width} height={height} rx={3} style={{ fill: `var(${step.fill})` }} />
      {height > 18 && width > 34 && (
        <text x={7} y={16} style={{ fill: `var(${step.ink})`, fontSize: 12.5, fontWeight: 600 }}>
          {cut(node.children ? `${name}  ${plural(pages, "page")}` : name, width - 12)}
        </text>
      )}
      {!node.children && height > 36 && width > 60 && (
        <text x={7} y={32} style={{ fill: `var(${step.ink})`, fontSize: 12, fontWeight: 400 }}>
          {cut(plural(pages, "page"), width - 12)}
        </text>
      )}
    </>
  );
  const at = `translate(${node.x0} ${node.y0})`;
  if (!branch) return <g transform={at}>{area}</g>;
  return (
    <g
      transform={at}
      role="button"
      tabIndex={0}
      aria-label={words}
      className="cursor-pointer outline-offset-[-3px]"
      onClick={() => onOpen(branch)}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          onOpen(branch);
        }
      }}
    >
      {area}
    </g>
  );
}

const nameOf = (branch: Branch, below: string) =>
  below && branch.name.startsWith(below) ? branch.name.slice(below.length) || "directly here" : branch.label || "none";

function cut(text: string, width: number): string {
  const letters = Math.max(1, Math.floor(width / LETTER_PX));
  return text.length <= letters ? text : `${text.slice(0, letters - 1)}…`;
}
