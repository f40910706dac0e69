/** Short notices that something was done, for changes whose result is not before one's eyes. */
import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useState } from "react";

const SHOWN_MS = 5000;
const SayContext = createContext<(text: string) => void>(() => undefined);

/** Says that something was done. */
export const useSay = () => useContext(SayContext);

export function Toasts({ children }: { children: ReactNode }) {
  const [said, setSaid] = useState<{ id: number; text: string }[]>([]);
  const say = useCallback(
    (text: string) => setSaid((now) => [...now.slice(-2), { id: (now.at(-1)?.id ?? 0) + 1, text }]),
    [],
  );
  return (
    <SayContext.Provider value={say}>
      <Toast.Provider duration={SHOWN_MS} label="Notice">
        {children}
        {said.map(({ id, text }) => (
          <Toast.Root
            key={id}
            onOpenChange={(open) => open || setSaid((now) => now.filter((n) => n.id !== id))}
            className="bg-ink text-paper flex items-center justify-between gap-4 rounded-md px-3.5 py-2 shadow-lg"
          >
            <Toast.Description>{text}</Toast.Description>
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
