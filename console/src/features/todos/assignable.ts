import { useQuery } from "@tanstack/react-query";
import { clients } from "../../api/queries/sites";
import { members } from "../../api/queries/team";
import type { Client, Member } from "../../api/types";
import type { Choice } from "../../ui/controls";

/** Members that a to-do of these sites can be given to: who cannot see a client is given none of its work. */
export function assignable(people: readonly Member[], firms: readonly Client[], sites: readonly number[]): Choice[] {
  const concerned = firms.filter((firm) => firm.sites.some((site) => sites.includes(site.id)));
  const sees = (person: Member, firm: Client) =>
    ["owner", "lead"].includes(person.role) || firm.member_ids.length === 0 || firm.member_ids.includes(person.id);
  return people
    .filter((m) => m.active && m.role !== "guest" && concerned.every((firm) => sees(m, firm)))
    .map((m) => ({ value: String(m.id), label: `${m.name} (${m.open_todos} open)` }));
}

export const UNASSIGNED: Choice = { value: "", label: "Unassigned" };

export function useAssignable(...sites: number[]): Choice[] {
  const people = useQuery(members.all()).data ?? [];
  const firms = useQuery(clients.all()).data ?? [];
  return assignable(people, firms, sites);
}
