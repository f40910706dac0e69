import type { ReactNode } from "react";
import { Dialog as Radix } from "radix-ui";

type Props = {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description: ReactNode;
  children: ReactNode;
};

export function Dialog({ open, onOpenChange, title, description, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content className="bg-surface border-line fixed top-[12vh] left-1/2 z-50 max-h-[80vh] w-[min(520px,94vw)] -translate-x-1/2 overflow-y-auto rounded-md border p-5 shadow-xl">
          <Radix.Title className="text-[17px] font-semibold">{title}</Radix.Title>
          <Radix.Description className="text-ink-2 mt-1 mb-4">{description}</Radix.Description>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
