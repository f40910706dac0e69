/** A choice among many, found by typing a part of its name. */
import { Popover } from "radix-ui";
import { type KeyboardEvent, useId, useState } from "react";
import { controlClass, type Tied } from "./controls";

const SHOWN = 50;

type ComboProps = Tied & { value: string; onChange: (value: string) => void; choices: readonly string[] };

export function Combo({ value, onChange, choices, ...tied }: ComboProps) {
  const list = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const wanted = (typed ?? "").toLowerCase().split(/[\s_/]+/);
  const found = choices.filter((c) => wanted.every((part) => c.toLowerCase().replaceAll("_", " ").includes(part)));
  const shown = found.slice(0, SHOWN);
  const open = typed !== null;
  const choose = (choice: string | undefined) => {
    if (choice !== undefined) onChange(choice);
    setTyped(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (!open) setTyped("");
      else setAt((now) => Math.max(0, Math.min(shown.length - 1, now + (event.key === "ArrowDown" ? 1 : -1))));
    } else if (event.key === "Enter" && open) {
      event.preventDefault();
      choose(shown[at]);
    } else if (event.key === "Escape" && open) {
      event.preventDefault();
      setTyped(null);
    }
  };
  return (
    <Popover.Root open={open} onOpenChange={(now) => now || setTyped(null)}>
      <Popover.Anchor asChild>
        <input
          {...tied}
          role="combobox"
          aria-expanded={open}
          aria-controls={list}
          aria-activedescendant={open && shown[at] ? `${list}-${at}` : undefined}
          autoComplete="off"
          className={controlClass}
          value={typed ?? value}
          onChange={(e) => {
            setTyped(e.target.value);
            setAt(0);
          }}
          onClick={() => open || setTyped("")}
          onBlur={() => setTyped(null)}
          onKeyDown={onKeyDown}
        />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          sideOffset={3}
          align="start"
          onOpenAutoFocus={(e) => e.preventDefault()}
          className="bg-surface border-line-strong text-ink z-50 max-h-64 w-(--radix-popover-trigger-width) overflow-y-auto rounded-md border p-1 shadow-lg"
        >
          <div role="listbox" id={list} aria-label="Choices">
            {shown.map((choice, i) => (
              <div
                key={choice}
                id={`${list}-${i}`}
                role="option"
                aria-selected={i === at}
                ref={(node) => {
                  if (i === at) node?.scrollIntoView?.({ block: "nearest" });
                }}
                className={`cursor-default rounded-sm px-2 py-1 ${i === at ? "bg-accent-soft text-accent" : ""}`}
                onMouseEnter={() => setAt(i)}
                onMouseDown={(e) => {
                  e.preventDefault();
                  choose(choice);
                }}
              >
                {choice.replaceAll("_", " ")}
                {choice === value && " ✓"}
              </div>
            ))}
          </div>
          {shown.length === 0 && <p className="text-ink-3 px-2 py-1">Nothing is called “{typed}”.</p>}
          {found.length > SHOWN && <p className="text-ink-3 px-2 py-1 text-sm">Type to find more.</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
