import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { SiteFrame } from "./frame";

const BRIEF = { id: "r1", site_id: 9, state: "crawling", requested_at: "2026-11-24T02:04:00Z", finished_at: null };
const SITE = {
  id: 9,
  host: "a.example",
  kind: "own",
  client_id: 1,
  client_name: "A",
  runs: 0,
  running: null,
  last_run: null,
  can_go_on: false,
};
const FIGURES = {
  pages_done: 1200,
  queued: 40,
  known: 1300,
  per_s: 4.8,
  left_s: 75,
  slower: 2,
  answers: { "2xx": 1190, timeout: 3 },
  recent: [["https://a.example/rope", 200, ""], ["https://a.example/slow", null, "timeout"]],
}; // prettier-ignore

class Events extends EventTarget {
  static last: Events;
  closed = false;
  constructor(readonly url: string) {
    super();
    Events.last = this;
  }
  close() {
    this.closed = true;
  }
  tell(run: unknown) {
    act(() => void this.dispatchEvent(new MessageEvent("run", { data: JSON.stringify(run) })));
  }
}

let sent: string[] = [];
let site: Record<string, unknown> = SITE;
let refused: Record<string, { detail: string; hint: string }> = {};

beforeEach(() => {
  [sent, site, refused] = [[], SITE, {}];
  vi.stubGlobal("EventSource", Events);
  vi.stubGlobal("fetch", async (url: string, options: RequestInit) => {
    const asked = `${options.method} ${url.replace("/api/v1", "")}`;
    sent.push(asked);
    if (refused[asked]) return new Response(JSON.stringify(refused[asked]), { status: 409 });
    return new Response(JSON.stringify(asked === "GET /sites/9" ? site : BRIEF), { status: 200 });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function show() {
  const router = createMemoryRouter(
    [{ path: "/sites/:siteId", element: <SiteFrame />, children: [{ index: true, element: <p>the summary</p> }] }],
    { initialEntries: ["/sites/9"] },
  );
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <Tooltip.Provider>
        <RouterProvider router={router} />
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
}

describe("a site with an audit under way", () => {
  it("shows how far it has come, as the service tells it", async () => {
    site = { ...SITE, running: BRIEF };
    show();
    await screen.findByText("the summary");
    expect(Events.last.url).toBe("/api/v1/runs/r1/events");
    Events.last.tell({ ...BRIEF, progress: FIGURES });
    const said = screen.getByText(/1,200 pages fetched/).textContent;
    for (const part of ["40 waiting", "1,300 addresses known", "4.8 pages a second", "1 min 15 s left"])
      expect(said).toContain(part);
    expect(said).toContain("2xx 1,190 · timeout 3");
    expect(said).toContain("2 times slower than planned, because the host struggles");
    expect(screen.getByText("https://a.example/slow").closest("li")?.textContent).toContain("timeout");
    Events.last.tell({ ...BRIEF, state: "examining", progress: FIGURES });
    expect(screen.getByRole("status").textContent).toBe("Audit under way: examining");
    Events.last.tell({ ...BRIEF, state: "done", finished_at: "2026-11-24T02:09:00Z" });
    expect(Events.last.closed).toBe(true);
  });
  it("says so when it was asked to stop", async () => {
    site = { ...SITE, running: BRIEF };
    show();
    await screen.findByText("the summary");
    Events.last.tell({ ...BRIEF, progress: null });
    expect(screen.getByText("robots.txt and sitemaps are read first.")).toBeTruthy();
    fireEvent.click(screen.getByText("Stop; examine what is there"));
    expect(await screen.findByText("It stops; what is there will be examined.")).toBeTruthy();
    expect(sent).toContain("POST /runs/r1/stop");
  });
});

describe("a site whose last audit broke off", () => {
  const failed = { ...BRIEF, state: "failed", reason: "The disk is full." };
  it("offers to go on with it", async () => {
    site = { ...SITE, last_run: failed, can_go_on: true };
    show();
    expect((await screen.findByRole("alert")).textContent).toContain("The disk is full.");
    fireEvent.click(screen.getByText("Let it go on"));
    await waitFor(() => expect(sent).toContain("POST /runs/r1/resume"));
  });
  it("offers nothing when there is nothing to go on with", async () => {
    site = { ...SITE, last_run: failed };
    show();
    await screen.findByRole("alert");
    expect(screen.queryByText("Let it go on")).toBeNull();
  });
  it("says why a new one cannot begin", async () => {
    refused["POST /sites/9/runs"] = { detail: "a.example is being audited already.", hint: "Wait for it." };
    show();
    fireEvent.click(await screen.findByText("Run now"));
    expect((await screen.findByRole("alert")).textContent).toContain("a.example is being audited already.");
  });
});
