import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Navigate, NavLink, Outlet, useLocation } from "react-router";
import { call, type Client, type Member, type Todo } from "../../api/client";
import { useRead } from "../../api/hooks";
import { applyTheme, currentTheme } from "../../lib/theme";
import { LinkButton, Skeleton, Trouble } from "../../ui/parts";
import { Mark } from "./mark";

const PLACES = [
  ["/", "Desk"],
  ["/clients", "Clients"],
  ["/todos", "To-dos"],
  ["/benchmarks", "Benchmarks"],
  ["/reports", "Reports"],
  ["/catalogue", "Catalogue"],
  ["/team", "Team & settings"],
] as const;

export function Shell() {
  const me = useRead<Member>("/session");
  const { pathname, search } = useLocation();
  const [open, setOpen] = useState(false);
  useEffect(() => setOpen(false), [pathname]);
  if (me.error?.status === 401)
    return <Navigate to={`/sign-in?back=${encodeURIComponent(pathname + search)}`} replace />;
  if (me.error)
    return (
      <div className="p-6">
        <Trouble error={me.error} again={() => me.refetch()} />
      </div>
    );
  if (!me.data)
    return (
      <div className="p-6">
        <Skeleton rows={8} />
      </div>
    );
  return (
    <div className="md:grid md:min-h-screen md:grid-cols-[196px_1fr]">
      <a href="#main" className="bg-accent text-accent-ink sr-only z-50 p-2 focus:not-sr-only focus:absolute">
        Skip to the content
      </a>
      <div className="border-line flex flex-col border-b px-2.5 py-3.5 md:sticky md:top-0 md:h-screen md:border-r md:border-b-0">
        <div className="flex items-center justify-between px-2 md:pb-3">
          <Link to="/" className="text-ink flex items-center gap-2 text-[15px] font-semibold hover:no-underline">
            <Mark /> Hodcarrier
          </Link>
          <button type="button" className="text-accent md:hidden" aria-expanded={open} onClick={() => setOpen(!open)}>
            Menu
          </button>
        </div>
        <nav aria-label="Main" className={`${open ? "flex" : "hidden"} flex-col gap-0.5 pt-2 md:flex md:pt-0`}>
          {PLACES.filter(([to]) => me.data.role !== "guest" || to === "/reports").map(([to, label]) => (
            <NavLink
              key={to}
              to={to}
              end={to === "/"}
              className={({ isActive }) =>
                `flex justify-between rounded-md px-2 py-1.5 hover:no-underline ${
                  isActive || (to === "/clients" && pathname.startsWith("/sites"))
                    ? "bg-accent-soft text-accent font-semibold"
                    : "text-ink-2 hover:bg-sunk"
                }`
              }
            >
              {label} {me.data.role !== "guest" && <Counter place={to} me={me.data} />}
            </NavLink>
          ))}
        </nav>
        <div className={`${open ? "block" : "hidden"} text-ink-3 px-2 pt-3 text-sm md:mt-auto md:block`}>
          <div>
            {me.data.name}, {me.data.role}
          </div>
          <div className="mt-1 flex gap-3">
            <SignOut />
            <ThemeSwitch />
          </div>
        </div>
      </div>
      <main id="main" className="min-w-0 px-4 py-4 md:px-[22px]">
        {me.data.role === "guest" && pathname === "/" ? (
          <Navigate to="/reports" replace />
        ) : (
          <Outlet context={me.data} />
        )}
      </main>
    </div>
  );
}

function Counter({ place, me }: { place: string; me: Member }) {
  const clients = useRead<Client[]>(place === "/clients" ? "/clients" : null);
  const todos = useRead<Todo[]>(place === "/todos" ? `/todos?state=live&assignee=${me.id}` : null);
  if (clients.data) return <span>{clients.data.length}</span>;
  if (todos.data) return <span>{todos.data.length || ""}</span>;
  return null;
}

function SignOut() {
  const cache = useQueryClient();
  return (
    <LinkButton
      onClick={async () => {
        await call("DELETE", "/session");
        cache.clear();
        location.assign("/sign-in");
      }}
    >
      Sign out
    </LinkButton>
  );
}

function ThemeSwitch() {
  const [theme, setTheme] = useState(currentTheme());
  const other = theme === "dark" ? "light" : "dark";
  return (
    <LinkButton
      onClick={() => {
        applyTheme(other);
        setTheme(other);
      }}
    >
      {other === "dark" ? "Dark" : "Light"}
    </LinkButton>
  );
}

export function NotFound() {
  return (
    <div className="py-10">
      <h1 className="text-[20px] font-semibold">There is nothing at this address</h1>
      <p className="text-ink-2 mt-1">
        It may have been removed. <Link to="/">Go to the desk</Link>
      </p>
    </div>
  );
}
