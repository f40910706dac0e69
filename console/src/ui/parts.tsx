/** Bricks of every screen: cards, headings, buttons, addresses. No product words. */
import { type ButtonHTMLAttributes, type ReactNode, useEffect, useRef } from "react";
import { Tooltip } from "radix-ui";
import { shorten } from "../lib/words";

export function Card({
  title,
  aside,
  id,
  children,
  className = "",
}: {
  title?: ReactNode;
  aside?: ReactNode;
  id?: string;
  children: ReactNode;
  className?: string;
}) {
  const box = useRef<HTMLElement>(null);
  const { hash } = window.location;
  // A card that the address names is there only after the browser has looked for it.
  useEffect(() => {
    if (id && hash === `#${id}`) box.current?.scrollIntoView();
  }, [id, hash]);
  return (
    <section ref={box} id={id} className={`bg-surface border-line min-w-0 rounded-md border px-3.5 py-3 ${className}`}>
      {(title || aside) && (
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-3">
          {title && <h2 className="text-base font-semibold">{title}</h2>}
          {aside && <div className="text-ink-3 text-sm">{aside}</div>}
        </div>
      )}
      {children}
    </section>
  );
}

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { main?: boolean };
export const buttonClass = (main?: boolean) =>
  `inline-flex items-center gap-1.5 rounded-md border px-2.75 py-1.25 whitespace-nowrap no-underline hover:no-underline ${
    main
      ? "border-accent bg-accent text-accent-ink hover:opacity-90"
      : "border-line-strong bg-surface text-ink hover:bg-sunk"
  }`;

export function Button({ main, className = "", ...rest }: ButtonProps) {
  return <button type="button" className={`${buttonClass(main)} ${className}`} {...rest} />;
}

export function LinkButton({ className = "", ...props }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      className={`text-accent whitespace-nowrap hover:underline disabled:no-underline ${className}`}
      {...props}
    />
  );
}

/** Something that is shown once and never again, such as a secret, with what to do with it. */
export function ShownOnce({ code, children }: { code: string; children: ReactNode }) {
  return (
    <p role="status" className="bg-accent-soft my-2 rounded-md px-3 py-1.5 break-all">
      {children} <code className="font-mono text-sm">{code}</code>
    </p>
  );
}

/** A long text cut in the middle, whole on hover and for screen readers. */
export function Address({ text, chars = 60, className = "" }: { text: string; chars?: number; className?: string }) {
  const short = shorten(text, chars);
  const shown = <span className={`font-mono text-sm wrap-anywhere ${className}`}>{short}</span>;
  if (short === text) return shown;
  return <Hint text={text}>{shown}</Hint>;
}

export function Hint({ text, children }: { text: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="bg-ink text-paper z-50 max-w-lg rounded-md px-2 py-1 text-sm break-all"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export function Chip({ on, children, ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { on?: boolean }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`rounded-full border px-2.25 py-px text-sm ${on ? "border-accent bg-accent-soft text-accent" : "border-line-strong bg-surface text-ink-2"}`}
      {...rest}
    >
      {children}
    </button>
  );
}

export function Heading({ over, title, children }: { over?: ReactNode; title: ReactNode; children?: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
      <div className="min-w-0">
        {over && <div className="text-ink-3 text-sm">{over}</div>}
        <h1 className="text-[20px] leading-7 font-semibold break-words">{title}</h1>
      </div>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </div>
  );
}

/** The title of the window: the screen, what it is about, the product. */
export function Title({ of }: { of: (string | undefined)[] }) {
  const text = [...of, "Hodcarrier"].filter(Boolean).join(" · ");
  useEffect(() => {
    document.title = text;
  }, [text]);
  return null;
}
