/** A menu of documents to download. */
import { DropdownMenu } from "radix-ui";
import { buttonClass } from "./parts";

const itemClass =
  "data-[highlighted]:bg-accent-soft data-[highlighted]:text-accent text-ink block rounded-sm px-2 py-1 no-underline outline-none hover:no-underline";

export function Downloads({
  label = "Export",
  items,
}: {
  label?: string;
  items: readonly { label: string; href: string; opens?: boolean }[];
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={buttonClass()}>
        {label} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="bg-surface border-line-strong z-50 min-w-44 rounded-md border p-1 shadow-md"
        >
          {items.map((item) => (
            <DropdownMenu.Item key={item.label} asChild>
              <a
                href={item.href}
                className={itemClass}
                {...(item.opens ? { target: "_blank", rel: "noreferrer" } : { download: true })}
              >
                {item.label}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
