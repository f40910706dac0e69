import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Navigate, NavLink, Outlet, useLocation } from "react-router";
import { session } from "../../api/queries/team";
import { clients } from "../../api/queries/sites";
import { todos } from "../../api/queries/work";
import { useMay } from "../../api/hooks";
import { useChange } from "../../api/change";
import { useWatch } from "../../api/watch";
import type { Member } from "../../api/types";
import { applyTheme, currentTheme } from "../../lib/theme";
import { DateOrderContext } from "../../ui/controls";
import { LinkButton, Title } from "../../ui/parts";
import { Skeleton, Trouble } from "../../ui/state";
import { Mark } from "./mark";
import { Palette } from "./palette";
import { PLACES } from "./places";

export function Shell() {
  const me = useQuery(session.me());
  const may = useMay();
  useWatch(Boolean(me.data) && may("watch_changes"));
  const { pathname, search } = useLocation();
  // The menu of narrow windows is open for the screen it was opened on.
  const [openOn, setOpenOn] = useState("");
  const open = openOn === pathname;
  if (me.error?.status === 401)
    return <Navigate to={`/sign-in?back=${encodeURIComponent(pathname + search)}`} replace />;
  if (me.error && !me.data)
    return (
      <div className="p-6">
        <Trouble error={me.error} again={() => void me.refetch()} />
      </div>
    );
  if (!me.data)
    return (
      <div className="p-6">
        <Skeleton rows={8} />
      </div>
    );
  const places = PLACES.filter((place) => may(place.needs) && !("unless" in place && may(place.unless)));
  const home = places[0]?.to ?? "/portal";
  return (
    <DateOrderContext value={me.data.date_order}>
      <div className="md:grid md:min-h-screen md:grid-cols-[196px_1fr]">
        <a href="#main" className="bg-accent text-accent-ink sr-only z-50 p-2 focus:not-sr-only focus:absolute">
          Skip to the content
        </a>
        <div className="border-line flex flex-col border-b px-2.5 py-3.5 md:sticky md:top-0 md:h-screen md:border-r md:border-b-0">
          <div className="flex items-center justify-between px-2 md:pb-3">
            <Link to="/" className="text-ink flex items-center gap-2 text-[15px] font-semibold hover:no-underline">
              <Mark /> Hodcarrier
            </Link>
            <button
              type="button"
              className="text-accent md:hidden"
              aria-expanded={open}
              onClick={() => setOpenOn(open ? "" : pathname)}
            >
              Menu
            </button>
          </div>
          <nav aria-label="Main" className={`${open ? "flex" : "hidden"} flex-col gap-0.5 pt-2 md:flex md:pt-0`}>
            {places.map(({ to, label }) => (
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
                {label} <Counter place={to} me={me.data} />
              </NavLink>
            ))}
          </nav>
          <div className={`${open ? "block" : "hidden"} text-ink-3 px-2 pt-3 text-sm md:mt-auto md:block`}>
            {may("search") && <Palette places={places} />}
            <div className="mt-2">
              {me.data.name}, {me.data.role}
            </div>
            <div className="mt-1 flex gap-3">
              <SignOut />
              <ThemeSwitch />
            </div>
          </div>
        </div>
        <main id="main" className="min-w-0 px-4 py-4 md:px-[22px]">
          {pathname === "/" && home !== "/" ? <Navigate to={home} replace /> : <Outlet context={me.data} />}
        </main>
      </div>
    </DateOrderContext>
  );
}

function ClientCount() {
  const found = useQuery(clients.all());
  return found.data && <span>{found.data.length}</span>;
}

function TodoCount({ me }: { me: Member }) {
  const found = useQuery(todos.count("live", me.id));
  return found.data !== undefined && <span>{found.data || ""}</span>;
}

function Counter({ place, me }: { place: string; me: Member }) {
  if (place === "/clients") return <ClientCount />;
  if (place === "/todos") return <TodoCount me={me} />;
  return null;
}

function SignOut() {
  const cache = useQueryClient();
  const signOut = useChange(session.signOut());
  return (
    <LinkButton
      disabled={signOut.isPending}
      title={signOut.error?.detail}
      onClick={() =>
        signOut.mutate(undefined, {
          onSuccess: () => {
            cache.clear();
            location.assign("/sign-in");
          },
        })
      }
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

/** A screen that could not be fetched: the console is of an earlier release than the service, or the service is away. */
export function Unloadable() {
  return (
    <div className="p-6">
      <Title of={["Not loaded"]} />
      <Trouble
        error={{ status: 0, detail: "This screen could not be loaded.", hint: "The service may have been upgraded." }}
        again={() => location.reload()}
      />
    </div>
  );
}

export function NotFound() {
  return (
    <div className="py-10">
      <Title of={["Nothing here"]} />
      <h1 className="text-[20px] font-semibold">Page not found</h1>
      <p className="text-ink-2 mt-1">
        It may have been removed. <Link to="/">Go to desk</Link>
      </p>
    </div>
  );
}
