import { useSearchParams } from "react-router";

/** The query of the address, and what sets one of its values; an empty one is taken away. No step back is made of it. */
export function useAddress() {
  const [view, setView] = useSearchParams();
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(view);
    if (value) next.set(name, value);
    else next.delete(name);
    setView(next, { replace: true });
  };
  return [view, set] as const;
}
