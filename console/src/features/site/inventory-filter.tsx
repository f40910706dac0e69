/** The filter of the inventory: put together condition by condition, or written out. */
import { useState } from "react";
import type { Filter, InventoryColumn, Operator } from "../../api/types";
import { controlClass, Segments, Select } from "../../ui/controls";
import { Combo } from "../../ui/combo";
import { Dialog } from "../../ui/dialog";
import { Button, LinkButton } from "../../ui/parts";
import { type Condition, EMPTY_GROUP, type Group, groupOf, isGroup, writtenGroup } from "./filter-tree";

type Kinds = ReadonlyMap<string, InventoryColumn>;

type Props = {
  filter: Filter | undefined;
  columns: readonly InventoryColumn[];
  onApply: (where: string) => void;
};

export function FilterDialog({ filter, columns, onApply }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Filter…</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Filter"
        description="Conditions on any columns, shown or not. A group stands in brackets."
      >
        {open && (
          <Builder
            filter={filter}
            columns={columns}
            onApply={(where) => {
              onApply(where);
              setOpen(false);
            }}
          />
        )}
      </Dialog>
    </>
  );
}

function Builder({ filter, columns, onApply }: Props) {
  const kinds: Kinds = new Map(columns.map((column) => [column.name, column]));
  const read = filter ? groupOf(filter) : EMPTY_GROUP;
  const [group, setGroup] = useState<Group>(read?.parts.length ? read : { any: false, parts: [fresh(columns)] });
  if (read === null)
    return <p>This filter is more than can be put together here. Change it in the line above the table.</p>;
  const unfinished = !isFinished(group, kinds);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!unfinished) onApply(writtenGroup(group, kinds));
      }}
    >
      <GroupFields group={group} kinds={kinds} onChange={setGroup} />
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button main type="submit" disabled={unfinished}>
          Show
        </Button>
        <LinkButton onClick={() => onApply("")}>Remove the filter</LinkButton>
        {unfinished && <span className="text-ink-3">Fill in every value.</span>}
      </div>
    </form>
  );
}

const fresh = (columns: readonly InventoryColumn[]): Condition => ({
  column: columns.some((column) => column.name === "status") ? "status" : "url",
  operator: "=",
  values: [""],
  not: false,
});

const needed = (operator: Operator) => (operator === "is empty" ? 0 : operator === "between" ? 2 : 1);

function isFinished(group: Group, kinds: Kinds): boolean {
  return group.parts.every((part) => {
    if (isGroup(part)) return isFinished(part, kinds);
    const kind = kinds.get(part.column)?.kind;
    const values = part.values.slice(0, needed(part.operator));
    return kind !== undefined && (kind === "flag" || values.every((value) => value.trim() !== ""));
  });
}

function GroupFields({
  group,
  kinds,
  onChange,
  inner = false,
}: {
  group: Group;
  kinds: Kinds;
  onChange: (group: Group) => void;
  inner?: boolean;
}) {
  const put = (at: number, part: Condition | Group | null) =>
    onChange({ ...group, parts: group.parts.flatMap((each, n) => (n === at ? (part ? [part] : []) : [each])) });
  const columns = [...kinds.values()];
  return (
    <div className={inner ? "border-line-strong space-y-2 border-l-2 pl-3" : "space-y-2"}>
      {(group.parts.length > 1 || inner) && (
        <Segments
          label={inner ? "How this group is joined" : "How conditions are joined"}
          value={group.any ? "any" : "all"}
          onChange={(name) => onChange({ ...group, any: name === "any" })}
          choices={[
            { value: "all", label: "all of these" },
            { value: "any", label: "any of these" },
          ]}
        />
      )}
      {group.parts.map((part, at) =>
        isGroup(part) ? (
          <GroupFields
            key={at}
            inner
            group={part}
            kinds={kinds}
            onChange={(next) => put(at, next.parts.length ? next : null)}
          />
        ) : (
          <ConditionFields
            key={at}
            condition={part}
            kinds={kinds}
            onChange={(next) => put(at, next)}
            onRemove={() => put(at, null)}
          />
        ),
      )}
      <div className="flex gap-4">
        <LinkButton onClick={() => onChange({ ...group, parts: [...group.parts, fresh(columns)] })}>
          Add a condition
        </LinkButton>
        {!inner && (
          <LinkButton
            onClick={() =>
              onChange({
                ...group,
                parts: [...group.parts, { any: !group.any, parts: [fresh(columns), fresh(columns)] }],
              })
            }
          >
            Add a group
          </LinkButton>
        )}
      </div>
    </div>
  );
}

function ConditionFields({
  condition,
  kinds,
  onChange,
  onRemove,
}: {
  condition: Condition;
  kinds: Kinds;
  onChange: (condition: Condition) => void;
  onRemove: () => void;
}) {
  const column = kinds.get(condition.column);
  const byLabel = new Map([...kinds.values()].map((each) => [each.label, each]));
  const choices = (column?.operators ?? ["="]).flatMap((operator) => [
    { value: operator, label: WORDS[operator] },
    ...(operator === "contains" || operator === "is empty" || operator === "in"
      ? [{ value: `not ${operator}`, label: NOT[operator] ?? operator }]
      : []),
  ]);
  const at = (n: number) => condition.values[n] ?? "";
  const known = knownValues(column, condition);
  const type = (n: number, value: string) =>
    onChange({ ...condition, values: n === 0 ? [value, ...condition.values.slice(1)] : [at(0), value] });
  const change = (said: string) => {
    const not = said.startsWith("not ");
    onChange({ ...condition, not, operator: said.replace(/^not /, "") as Operator });
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <div className="w-44">
        <Combo
          id={`column of ${condition.column}`}
          aria-label="Column"
          value={column?.label ?? condition.column}
          choices={[...byLabel.keys()]}
          onChange={(label) => {
            const next = byLabel.get(label);
            if (next)
              onChange({
                column: next.name,
                operator: next.operators.includes(condition.operator) ? condition.operator : "=",
                values: next.kind === column?.kind ? condition.values : [next.kind === "flag" ? "yes" : ""],
                not: condition.not && next.operators.includes(condition.operator),
              });
          }}
        />
      </div>
      <div className="w-40">
        <Select
          id="operator"
          aria-label="Comparison"
          value={(condition.not ? "not " : "") + condition.operator}
          onChange={change}
          choices={choices}
        />
      </div>
      {needed(condition.operator) > 0 &&
        (known.length > 0 ? (
          <div className={column?.kind === "flag" ? "w-20" : "w-44"}>
            <Select
              id="value"
              aria-label="Value"
              placeholder="choose"
              value={at(0) || (column?.kind === "flag" ? "yes" : "")}
              onChange={(value) => type(0, value)}
              choices={known.map((value) => ({ value, label: value }))}
            />
          </div>
        ) : condition.operator === "in" ? (
          <input
            aria-label="Values, with commas between"
            placeholder="a, b, c"
            className={`${controlClass} !w-40`}
            defaultValue={condition.values.join(", ")}
            onChange={(event) =>
              onChange({
                ...condition,
                values: event.target.value
                  .split(",")
                  .map((each) => each.trim())
                  .filter(Boolean),
              })
            }
          />
        ) : (
          Array.from({ length: needed(condition.operator) }, (_, n) => (
            <input
              key={n}
              aria-label={n === 0 ? "Value" : "Upper value"}
              placeholder={column?.kind === "day" ? "YYYY-MM-DD" : column?.units.length ? `in ${column.unit}` : ""}
              className={`${controlClass} ${column?.kind === "text" ? "!w-40" : "!w-24"}`}
              value={at(n)}
              onChange={(event) => type(n, event.target.value)}
            />
          ))
        ))}
      <LinkButton aria-label={`Remove the condition on ${column?.label ?? condition.column}`} onClick={onRemove}>
        remove
      </LinkButton>
    </div>
  );
}

/** All values that a condition can name, where they are known; what it names already is among them. */
function knownValues(column: InventoryColumn | undefined, condition: Condition): string[] {
  if (column?.kind === "flag") return ["yes", "no"];
  const named = condition.values[0] ?? "";
  if (!column?.choices.length || !["=", "!="].includes(condition.operator)) return [];
  return column.choices.includes(named) || named === "" ? column.choices : [named, ...column.choices];
}

const WORDS: Record<Operator, string> = {
  "=": "is",
  "!=": "is not",
  "<": "is under",
  "<=": "is at most",
  ">": "is over",
  ">=": "is at least",
  between: "is between",
  in: "is one of",
  contains: "contains",
  "starts with": "starts with",
  "ends with": "ends with",
  matches: "matches",
  "is empty": "is empty",
};
const NOT: Record<string, string> = { contains: "does not contain", "is empty": "is not empty", in: "is none of" };
