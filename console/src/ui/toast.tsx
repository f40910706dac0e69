/** Short notices that something was done, for changes whose result is not before one's eyes. */
import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useState } from "react";

const SHOWN_MS = 5000;
const UNDO_SHOWN_MS = 12_000;
/** How what was done is undone. */
export type Undo = () => void;
type Say = (text: string, undo?: Undo) => void;
const SayContext = createContext<Say>(() => undefined);

/** Says that something was done, and offers to undo it where that is possible. */
export const useSay = () => useContext(SayContext);

export function Toasts({ children }: { children: ReactNode }) {
  const [said, setSaid] = useState<{ id: number; text: string; undo?: Undo }[]>([]);
  const say = useCallback<Say>(
    (text, undo) => setSaid((now) => [...now.slice(-2), { id: (now.at(-1)?.id ?? 0) + 1, text, undo }]),
    [],
  );
  return (
    <SayContext.Provider value={say}>
      <Toast.Provider duration={SHOWN_MS} label="Notice">
        {children}
        {said.map(({ id, text, undo }) => (
          <Toast.Root
            key={id}
            duration={undo ? UNDO_SHOWN_MS : SHOWN_MS}
            onOpenChange={(open) => open || setSaid((now) => now.filter((n) => n.id !== id))}
            className="bg-ink text-paper flex items-center justify-between gap-4 rounded-md px-3.5 py-2 shadow-lg"
          >
            <Toast.Description>{text}</Toast.Description>
            {undo && (
              <Toast.Action altText="Undo what was done" onClick={undo} className="font-semibold underline">
                Undo
              </Toast.Action>
            )}
            <Toast.Close aria-label="Close the notice">✕</Toast.Close>
          </Toast.Root>
        ))}
        <Toast.Viewport
          label="Notices ({hotkey})"
          className="fixed right-4 bottom-4 z-50 flex w-[min(360px,92vw)] flex-col gap-2"
        />
      </Toast.Provider>
    </SayContext.Provider>
  );
}
