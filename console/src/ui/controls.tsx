/** Controls without a form: selects, ticks, days, times, tabs, menus. Labels come from `Labelled` or from the caller. */
import { Checkbox, DropdownMenu, Popover, Select as RadixSelect, Tabs as RadixTabs } from "radix-ui";
import { createContext, lazy, type ReactNode, Suspense, useContext, useId, useState } from "react";
import { type DateOrder, datePattern, isDay, isoDay, readDay, readTime, writtenDay } from "../lib/dates";

export type Choice = { value: string; label: string; group?: string };
/** What ties a control to its label, hint and message. */
export type Tied = { id?: string; "aria-describedby"?: string; "aria-invalid"?: boolean; disabled?: boolean };

export const controlClass =
  "disabled:bg-sunk disabled:text-ink-3 border-line-strong bg-surface text-ink aria-invalid:border-bad block w-full rounded-md border px-2.5 py-1.25";
const panelClass = "bg-surface border-line-strong text-ink z-50 rounded-md border p-1 shadow-lg";
const itemClass =
  "data-[highlighted]:bg-accent-soft data-[highlighted]:text-accent flex cursor-default items-center gap-2 rounded-sm px-2 py-1 outline-none";

/** The order of day, month and year in fields: that of the member's profile. */
export const DateOrderContext = createContext<DateOrder>("day-first");

// The select takes an empty value for "nothing chosen"; a choice of nothing needs a value of its own.
const NOTHING = "\u0000";

type SelectProps = Tied & {
  value: string;
  onChange: (value: string) => void;
  choices: readonly Choice[];
  placeholder?: string;
};

export function Select({ value, onChange, choices, placeholder = "choose one", ...tied }: SelectProps) {
  const groups = [...new Set(choices.map((c) => c.group ?? ""))];
  const known = choices.some((c) => c.value === value);
  return (
    <RadixSelect.Root
      value={known ? value || NOTHING : ""}
      onValueChange={(chosen) => onChange(chosen === NOTHING ? "" : chosen)}
      disabled={tied.disabled}
    >
      <RadixSelect.Trigger {...tied} className={`${controlClass} !flex items-center justify-between gap-2 text-left`}>
        <span className="min-w-0 truncate">
          <RadixSelect.Value placeholder={<span className="text-ink-3">{placeholder}</span>} />
        </span>
        <RadixSelect.Icon className="text-ink-3 text-sm">▾</RadixSelect.Icon>
      </RadixSelect.Trigger>
      <RadixSelect.Portal>
        <RadixSelect.Content
          position="popper"
          sideOffset={3}
          className={`${panelClass} max-h-[min(50vh,var(--radix-select-content-available-height))] max-w-[92vw] min-w-(--radix-select-trigger-width)`}
        >
          <RadixSelect.Viewport>
            {groups.map((group) => (
              <RadixSelect.Group key={group}>
                {group && <RadixSelect.Label className="text-ink-3 px-2 pt-1.5 text-sm">{group}</RadixSelect.Label>}
                {choices
                  .filter((c) => (c.group ?? "") === group)
                  .map((c) => (
                    <RadixSelect.Item key={c.value} value={c.value || NOTHING} className={itemClass}>
                      <RadixSelect.ItemText>{c.label}</RadixSelect.ItemText>
                      <RadixSelect.ItemIndicator className="ml-auto">✓</RadixSelect.ItemIndicator>
                    </RadixSelect.Item>
                  ))}
              </RadixSelect.Group>
            ))}
          </RadixSelect.Viewport>
        </RadixSelect.Content>
      </RadixSelect.Portal>
    </RadixSelect.Root>
  );
}

type TickProps = Tied & { checked: boolean | "indeterminate"; onChange: (checked: boolean) => void; label?: string };

/** A box to tick. `label` names it when nothing beside it does. */
export function Tick({ checked, onChange, label, ...tied }: TickProps) {
  return (
    <Checkbox.Root
      {...tied}
      aria-label={label}
      checked={checked}
      onCheckedChange={(now) => onChange(now === true)}
      className="border-line-strong bg-surface data-[state=checked]:bg-accent data-[state=checked]:border-accent text-accent-ink disabled:bg-sunk inline-flex size-4.5 shrink-0 items-center justify-center self-start rounded-sm border align-middle text-[11px] leading-none"
    >
      <Checkbox.Indicator>{checked === "indeterminate" ? <span className="text-ink">–</span> : "✓"}</Checkbox.Indicator>
    </Checkbox.Root>
  );
}

// Fetched when somebody opens one: few do, and it weighs as much as all screens together.
const Month = lazy(async () => ({ default: (await import("react-day-picker")).DayPicker }));

type TypedProps = Tied & { value: string; onChange: (value: string) => void; name?: string };

/**
 * A day, typed in the order of the profile or chosen from a month. Its value is the ISO day, or what was typed while that is
 * no day.
 */
export function DayInput({ value, onChange, name = "day", ...tied }: TypedProps) {
  const order = useContext(DateOrderContext);
  const [typed, setTyped] = useState("");
  const [open, setOpen] = useState(false);
  const shown = (readDay(typed, order) ?? typed) === value ? typed : writtenDay(value, order);
  const chosen = isDay(value) ? new Date(`${value}T12:00:00`) : undefined;
  return (
    <span className="relative block">
      <input
        {...tied}
        className={`${controlClass} pr-9`}
        inputMode="numeric"
        autoComplete="off"
        placeholder={datePattern(order)}
        value={shown}
        onChange={(e) => {
          setTyped(e.target.value);
          onChange(readDay(e.target.value, order) ?? e.target.value);
        }}
        onBlur={() => setTyped(writtenDay(value, order))}
      />
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          type="button"
          disabled={tied.disabled}
          aria-label={`Choose the ${name} from a month`}
          className="text-ink-3 hover:text-accent absolute inset-y-0 right-0 w-9"
        >
          <MonthSign />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content sideOffset={4} align="end" className={`${panelClass} p-3`}>
            <Suspense fallback={<div className="size-64" aria-busy="true" />}>
              <Month
                mode="single"
                autoFocus
                selected={chosen}
                defaultMonth={chosen}
                weekStartsOn={order === "month-first" ? 0 : 1}
                onSelect={(day) => {
                  if (day) onChange(isoDay(day));
                  setOpen(false);
                }}
                classNames={MONTH_CLASSES}
              />
            </Suspense>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

const MONTH_CLASSES = {
  months: "relative",
  month_caption: "pb-2 text-center font-semibold",
  nav: "absolute inset-x-0 top-0 flex justify-between",
  button_previous:
    "hover:bg-sunk size-6 rounded-sm [&_svg]:size-4 [&_svg]:fill-current inline-flex items-center justify-center",
  button_next:
    "hover:bg-sunk size-6 rounded-sm [&_svg]:size-4 [&_svg]:fill-current inline-flex items-center justify-center",
  weekday: "text-ink-3 size-8 text-sm font-medium",
  day: "text-center",
  day_button: "hover:bg-sunk size-8 rounded-sm",
  selected: "[&>button]:bg-accent [&>button]:text-accent-ink",
  today: "font-semibold text-accent",
  outside: "text-ink-3",
};

function MonthSign() {
  return (
    <svg
      width={14}
      height={14}
      viewBox="0 0 14 14"
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      className="mx-auto"
    >
      <rect x={1.5} y={2.5} width={11} height={10} rx={1} />
      <path d="M1.5 5.5h11M4.5 1v3M9.5 1v3" />
    </svg>
  );
}

/** A time of the 24-hour clock. Its value is HH:MM, or what was typed while that is no time. */
export function TimeInput({ value, onChange, ...tied }: Omit<TypedProps, "name">) {
  const [typed, setTyped] = useState("");
  const shown = (readTime(typed) ?? typed) === value ? typed : value;
  return (
    <input
      {...tied}
      className={controlClass}
      inputMode="numeric"
      autoComplete="off"
      placeholder="hh:mm"
      value={shown}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(readTime(e.target.value) ?? e.target.value);
      }}
      onBlur={() => setTyped(value)}
    />
  );
}

/** A field that narrows what is shown while it is typed into. */
export function SearchInput({
  value,
  onChange,
  label,
}: {
  value: string;
  onChange: (value: string) => void;
  label: string;
}) {
  return (
    <div className="w-56 max-w-full">
      <input
        type="search"
        className={controlClass}
        aria-label={label}
        placeholder={label}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </div>
  );
}

/** Views of the same thing, one at a time. */
export function Tabs({
  label,
  value,
  onChange,
  views,
  children,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  views: readonly { value: string; label: ReactNode }[];
  children: ReactNode;
}) {
  return (
    <RadixTabs.Root value={value} onValueChange={onChange}>
      <RadixTabs.List aria-label={label} className="border-line mb-2.5 flex flex-wrap gap-x-4 gap-y-1 border-b">
        {views.map((view) => (
          <RadixTabs.Trigger
            key={view.value}
            value={view.value}
            className="data-[state=active]:border-accent data-[state=active]:text-ink text-ink-2 -mb-px border-b-2 border-transparent pb-1 data-[state=active]:font-semibold"
          >
            {view.label}
          </RadixTabs.Trigger>
        ))}
      </RadixTabs.List>
      <RadixTabs.Content value={value} tabIndex={-1}>
        {children}
      </RadixTabs.Content>
    </RadixTabs.Root>
  );
}

/** A few choices side by side, one of them on. */
export function Segments<Name extends string>({
  label,
  value,
  onChange,
  choices,
}: {
  label: string;
  value: Name | "";
  onChange: (value: Name) => void;
  choices: readonly { value: Name; label: ReactNode; disabled?: boolean }[];
}) {
  return (
    <div
      role="group"
      aria-label={label}
      className="border-line-strong bg-surface divide-line-strong inline-flex max-w-full flex-wrap divide-x overflow-hidden rounded-md border"
    >
      {choices.map((choice) => (
        <button
          key={choice.value}
          type="button"
          aria-pressed={value === choice.value}
          disabled={choice.disabled}
          onClick={() => onChange(choice.value)}
          className={`px-2.75 py-1.25 whitespace-nowrap disabled:text-ink-3 ${value === choice.value ? "bg-accent-soft text-accent font-semibold" : "text-ink-2 enabled:hover:bg-sunk"}`}
        >
          {choice.label}
        </button>
      ))}
    </div>
  );
}

/** A menu of things to switch on and off. */
export function TickMenu({
  label,
  items,
  onChange,
}: {
  label: string;
  items: readonly { id: string; label: string; on: boolean }[];
  onChange: (id: string, on: boolean) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="border-line-strong bg-surface text-ink-2 rounded-md border px-2 py-px text-sm">
        {label} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={panelClass}>
          {items.map((item) => (
            <DropdownMenu.CheckboxItem
              key={item.id}
              checked={item.on}
              onCheckedChange={(on) => onChange(item.id, on)}
              onSelect={(event) => event.preventDefault()}
              className={itemClass}
            >
              <span className="w-3" aria-hidden="true">
                {item.on ? "✓" : ""}
              </span>
              {item.label}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A label with its control, hint and message, tied together for those who cannot see. */
export function Labelled({
  label,
  hint,
  wrong,
  beside = false,
  children,
}: {
  label: string;
  hint?: ReactNode;
  wrong?: string;
  beside?: boolean;
  children: (tied: Tied) => ReactNode;
}) {
  const id = useId();
  const said = [wrong && `${id}-wrong`, hint && `${id}-hint`].filter(Boolean).join(" ");
  const control = children({ id, "aria-describedby": said || undefined, "aria-invalid": wrong ? true : undefined });
  return (
    <div className={beside ? "grid grid-cols-[auto_1fr] content-start items-baseline gap-x-2" : ""}>
      {beside && control}
      <label htmlFor={id} className="text-ink-2 mb-0.5 block text-sm font-medium">
        {label}
      </label>
      {!beside && control}
      {wrong && (
        <span id={`${id}-wrong`} className="text-bad col-start-2 mt-0.5 block text-sm">
          {wrong}
        </span>
      )}
      {hint && (
        <span id={`${id}-hint`} className="text-ink-3 col-start-2 mt-0.5 block text-sm">
          {hint}
        </span>
      )}
    </div>
  );
}
