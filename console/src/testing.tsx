/** What the tests of screens share: a service that gives set answers and notes what it is asked, and a screen to look at. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, configure, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";
import { createMemoryRouter, Outlet, type RouteObject, RouterProvider } from "react-router";
import { afterEach, beforeEach, vi } from "vitest";
import type { Operation } from "./api/service";
import { Toasts } from "./ui/toast";

// What a browser has and jsdom has not; lists that open need it.
Element.prototype.hasPointerCapture = () => false;
Element.prototype.scrollIntoView = () => undefined;
globalThis.ResizeObserver = class { observe() {} unobserve() {} disconnect() {} }; // prettier-ignore

// A machine that does other things besides may take longer than the second that is usual.
configure({ asyncUtilTimeout: 20_000 });

export type Sent = { method: string; path: string; body: unknown; headers: Headers };
export type Answers = Record<string, { status?: number; body: unknown }>;

/** Everything a member may do in these tests. */
const MAY: readonly Operation[] = [
  "change_plan", "replace_plan", "get_access", "set_access", "remove_access", "start_run", "stop_run", "resume_run",
  "add_todo", "add_waivers", "remove_waivers", "change_waiver", "search", "get_desk", "list_sites", "get_run", "list_checks", "list_inventory", "compare_runs",
  "get_trend", "get_plan", "set_schedule", "remove_schedule", "list_profiles", "add_profile", "change_profile",
  "remove_profile", "examine_again",
]; // prettier-ignore
export const ME = { id: 1, name: "Imke", role: "lead", date_order: "day-first", may: MAY };

/** Stands in for the service in every test of the file: answers by "METHOD /path", notes what was sent. */
export function service(): { sent: Sent[]; answers: Answers } {
  const state: { sent: Sent[]; answers: Answers } = { sent: [], answers: {} };
  beforeEach(() => {
    state.sent = [];
    state.answers = { "GET /session": { body: ME } };
    vi.stubGlobal("fetch", async (request: Request) => {
      const url = new URL(request.url);
      const path = url.pathname.replace("/api/v1", "") + url.search;
      const text = await request.text();
      const body: unknown = text ? JSON.parse(text) : null;
      state.sent.push({ method: request.method, path, body, headers: request.headers });
      const answer = state.answers[`${request.method} ${path}`] ?? { body: {} };
      const empty = answer.status === 204;
      return new Response(empty ? null : JSON.stringify(answer.body), {
        status: answer.status ?? 200,
        headers: { "Content-Type": "application/json" },
      });
    });
  });
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
  });
  return state;
}

/** Draws routes at a path, or one element below a context. */
export function show(
  routes: RouteObject[] | ReactNode,
  { at = "/", context }: { at?: string; context?: unknown } = {},
) {
  const list: RouteObject[] = Array.isArray(routes)
    ? routes
    : [
        { element: <Outlet context={context} />, children: [{ path: "/", element: routes }] },
        { path: "/elsewhere", element: <p>somewhere else</p> },
      ];
  const router = createMemoryRouter(list, { initialEntries: [at] });
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <Tooltip.Provider>
        <Toasts>
          <RouterProvider router={router} />
        </Toasts>
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  return router;
}

/** Chooses in a list as the keyboard does. */
export async function choose(label: string | RegExp, option: string) {
  const list = await screen.findByLabelText(label);
  list.focus();
  fireEvent.keyDown(list, { key: "Enter" });
  fireEvent.click(await screen.findByRole("option", { name: option }));
}
