import type { Operation } from "../../api/service";

/** The screens of the whole agency, each with the operation that it cannot do without. */
export const PLACES = [
  { to: "/", label: "Desk", needs: "get_desk" },
  { to: "/clients", label: "Clients", needs: "list_sites" },
  { to: "/todos", label: "To-dos", needs: "list_todos" },
  { to: "/benchmarks", label: "Benchmarks", needs: "list_benchmarks" },
  { to: "/reports", label: "Reports", needs: "get_report" },
  // Guests have one place: the agency finds all of it elsewhere.
  { to: "/portal", label: "Overview", needs: "get_portal", unless: "get_desk" },
  { to: "/catalogue", label: "Catalogue", needs: "list_catalogue" },
  { to: "/team", label: "Team & settings", needs: "list_members" },
] as const satisfies readonly { to: string; label: string; needs: Operation; unless?: Operation }[];

export type Place = (typeof PLACES)[number];
