/** The palette: one field that jumps to any client, site, page, check, to-do or screen. */
import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type KeyboardEvent, useEffect, useState } from "react";
import { useMatch, useNavigate } from "react-router";
import { desk } from "../../api/queries/desk";
import { Trouble } from "../../ui/state";
import { SITE_PLACES } from "../site/places";
import type { Place } from "./places";

type Target = { kind: string; name: string; detail: string; link: string };

export function Palette({ places }: { places: readonly Place[] }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: globalThis.KeyboardEvent) => {
      const slash = event.key === "/" && !event.ctrlKey && !event.metaKey && !typing(event.target);
      const control = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k";
      if (!slash && !control) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="border-line-strong bg-surface text-ink-2 flex w-full items-center justify-between rounded-md border px-2 py-1">
        Go to … <kbd className="font-mono text-sm">/</kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="bg-surface border-line fixed top-[10vh] left-1/2 z-50 w-[min(620px,94vw)] -translate-x-1/2 rounded-md border shadow-xl"
        >
          <Dialog.Title className="sr-only">Go to a client, site, page, check, to-do or screen</Dialog.Title>
          {open && <Search places={places} close={() => setOpen(false)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

function Search({ places, close }: { places: readonly Place[]; close: () => void }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const found = useQuery(desk.search(text.trim()));
  const site = useMatch("/sites/:siteId/*")?.params.siteId;
  const screens: Target[] = [
    ...places.map(({ to, label }) => ({ kind: "screen", name: label, detail: "", link: to })),
    ...(site
      ? SITE_PLACES.map(([to, label]) => ({
          kind: "screen",
          name: label,
          detail: "of this site",
          link: `/sites/${site}${to ? `/${to}` : ""}`,
        }))
      : []),
  ];
  const wanted = text.trim().toLowerCase();
  const hits: Target[] = wanted ? (found.data ?? []) : [];
  const targets = [...screens.filter((s) => s.name.toLowerCase().includes(wanted)), ...hits];
  const chosen = Math.min(at, targets.length - 1);
  const go = (target: Target | undefined) => {
    if (!target) return;
    close();
    void navigate(target.link);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setAt((chosen + step + targets.length) % Math.max(1, targets.length));
    else if (event.key === "Enter") go(targets[chosen]);
    else return;
    event.preventDefault();
  };
  return (
    <div>
      <input
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls="palette"
        aria-activedescendant={targets.length ? `palette-${chosen}` : undefined}
        aria-label="Go to"
        placeholder="A client, site, page, check, to-do or screen"
        className="border-line w-full border-b bg-transparent px-4 py-3 outline-none"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <ul id="palette" role="listbox" aria-label="Places" className="max-h-[56vh] overflow-y-auto p-1.5">
        {targets.map((target, i) => (
          <li
            key={`${target.kind} ${target.link} ${target.name}`}
            id={`palette-${i}`}
            role="option"
            aria-selected={i === chosen}
            ref={(element) => {
              if (i === chosen) element?.scrollIntoView({ block: "nearest" });
            }}
            className={`flex cursor-pointer items-baseline gap-3 rounded-sm px-2.5 py-1.25 ${i === chosen ? "bg-accent-soft" : ""}`}
            onMouseMove={() => setAt(i)}
            onClick={() => go(target)}
          >
            <span className="text-ink-3 w-14 shrink-0 text-sm">{target.kind}</span>
            <span className="min-w-0 flex-1 truncate">{target.name}</span>
            <span className="text-ink-3 max-w-[45%] truncate text-sm">{target.detail}</span>
          </li>
        ))}
      </ul>
      {found.error ? (
        <div className="p-2">
          <Trouble error={found.error} again={() => void found.refetch()} />
        </div>
      ) : (
        <p role="status" className="text-ink-3 border-line border-t px-4 py-2 text-sm">
          {targets.length === 0 && !found.isFetching
            ? "Nothing of that name. Try a part of it, such as of the host or the path."
            : "↑ ↓ choose, Enter goes there, Esc closes"}
        </p>
      )}
    </div>
  );
}
