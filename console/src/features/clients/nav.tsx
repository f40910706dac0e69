import { NavLink } from "react-router";
import { useMay } from "../../api/hooks";
import { Heading, Title } from "../../ui/parts";
import type { ReactNode } from "react";

const VIEWS = [
  { to: "/clients", label: "Clients", needs: "list_clients" },
  { to: "/clients/sites", label: "Sites", needs: "list_sites" },
  { to: "/clients/week", label: "Week of runs", needs: "get_week" },
  { to: "/clients/presets", label: "Presets", needs: "list_presets" },
] as const;

/** The head of the screens that show all clients. */
export function ClientsHead({ title, children }: { title: string; children?: ReactNode }) {
  const may = useMay();
  return (
    <>
      <Title of={title === "Clients" ? ["Clients"] : [title, "Clients"]} />
      <Heading title={title}>{children}</Heading>
      <nav aria-label="Views of all clients" className="border-line mt-3 mb-3.5 flex gap-5 overflow-x-auto border-b">
        {VIEWS.filter((view) => may(view.needs)).map(({ to, label }) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) =>
              `py-1.5 whitespace-nowrap hover:no-underline ${isActive ? "text-ink border-accent border-b-2 font-semibold" : "text-ink-2"}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
    </>
  );
}

export const Tags = ({ tags }: { tags: readonly string[] }) =>
  tags.map((tag) => (
    <span key={tag} className="bg-sunk text-ink-2 mr-1 rounded-sm px-1.5 py-0.5 text-sm whitespace-nowrap">
      {tag}
    </span>
  ));
