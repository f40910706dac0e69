/** Which columns of the inventory are shown, and in what order. */
import { useState } from "react";
import type { InventoryColumn } from "../../api/types";
import { holds } from "../../lib/words";
import { SearchInput, Tick } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Button, LinkButton } from "../../ui/parts";

export function ColumnChoice({
  columns,
  shown,
  onChange,
}: {
  columns: readonly InventoryColumn[];
  shown: readonly string[];
  onChange: (names: string[]) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Columns ({shown.length})</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Columns"
        description="They stand in the order in which you choose them. The address keeps them, so a link shows the same table."
      >
        {open && <Choice columns={columns} shown={shown} onChange={onChange} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function Choice({
  columns,
  shown,
  onChange,
  close,
}: {
  columns: readonly InventoryColumn[];
  shown: readonly string[];
  onChange: (names: string[]) => void;
  close: () => void;
}) {
  const [typed, setTyped] = useState("");
  const groups = [...new Set(columns.map((column) => column.group))];
  const found = columns.filter((column) => holds(typed, column.label, column.name, column.text));
  return (
    <>
      <SearchInput label="Search columns" value={typed} onChange={setTyped} />
      <div className="my-3 max-h-[46vh] space-y-3 overflow-y-auto">
        {groups.map((group) => {
          const inside = found.filter((column) => column.group === group);
          if (inside.length === 0) return null;
          return (
            <fieldset key={group}>
              <legend className="text-ink-2 mb-1 font-semibold">{group}</legend>
              <div className="grid gap-x-4 sm:grid-cols-2">
                {inside.map((column) => (
                  <label
                    key={column.name}
                    className="flex min-h-[26px] items-start gap-2"
                    title={column.text || undefined}
                  >
                    <Tick
                      label={column.label}
                      checked={shown.includes(column.name)}
                      onChange={(on) =>
                        onChange(on ? [...shown, column.name] : shown.filter((name) => name !== column.name))
                      }
                    />
                    <span>
                      {column.label}
                      {column.unit && column.unit !== "pages" && (
                        <span className="text-ink-3 text-sm"> {column.unit}</span>
                      )}
                    </span>
                  </label>
                ))}
              </div>
            </fieldset>
          );
        })}
        {found.length === 0 && <p className="text-ink-3">No column has “{typed}” in its name.</p>}
      </div>
      <div className="flex items-center gap-3">
        <Button main onClick={close}>
          Done
        </Button>
        <LinkButton onClick={() => onChange([])}>Back to the columns shown at first</LinkButton>
      </div>
    </>
  );
}
