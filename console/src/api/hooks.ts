/** What screens ask about the person who looks. */
import { useQuery } from "@tanstack/react-query";
import { session } from "./queries/team";
import type { Operation } from "./service";

/** Whether the member may do an operation at all; the service decides about the single thing. */
export function useMay(): (operation: Operation) => boolean {
  const may = useQuery(session.me()).data?.may ?? [];
  return (operation) => may.includes(operation);
}
