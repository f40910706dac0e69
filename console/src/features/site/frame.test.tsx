import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ME, service, show } from "../../testing";
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

const stub = service();
beforeEach(() => {
  vi.stubGlobal("EventSource", Events);
  for (const path of ["/sites/9/runs", "/runs/r1/stop", "/runs/r1/resume"])
    stub.answers[`POST ${path}`] = { body: BRIEF };
});

function showSite(site: Record<string, unknown>) {
  stub.answers["GET /sites/9"] = { body: site };
  const children = [
    { index: true, element: <p>the summary</p> },
    { path: "trend", element: <p>the trend</p> },
  ];
  show([{ path: "/sites/:siteId", element: <SiteFrame />, children }], { at: "/sites/9" });
}
const posts = () => stub.sent.filter((s) => s.method === "POST").map((s) => s.path);

describe("a site with an audit under way", () => {
  it("shows how far it has come, as the service tells it", async () => {
    showSite({ ...SITE, running: BRIEF });
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
    showSite({ ...SITE, running: BRIEF });
    await screen.findByText("the summary");
    await waitFor(() => expect(Events.last.url).toBeTruthy());
    Events.last.tell({ ...BRIEF, progress: null });
    expect(screen.getByText("robots.txt and sitemaps are read first.")).toBeTruthy();
    fireEvent.click(screen.getByText("Stop; examine what is there"));
    expect(await screen.findByText("It stops; what is there will be examined.")).toBeTruthy();
    expect(posts()).toContain("/runs/r1/stop");
  });
});

describe("a site whose last audit broke off", () => {
  const failed = { ...BRIEF, state: "failed", reason: "The disk is full." };
  it("offers to go on with it", async () => {
    showSite({ ...SITE, last_run: failed, can_go_on: true });
    expect((await screen.findByRole("alert")).textContent).toContain("The disk is full.");
    fireEvent.click(await screen.findByText("Resume run"));
    await waitFor(() => expect(posts()).toContain("/runs/r1/resume"));
  });
  it("offers nothing when there is nothing to go on with", async () => {
    showSite({ ...SITE, last_run: failed });
    await screen.findByRole("alert");
    await screen.findByText("Run audit");
    expect(screen.queryByText("Resume run")).toBeNull();
  });
  it("shows a guest the trend alone", async () => {
    stub.answers["GET /session"] = { body: { ...ME, role: "guest", may: ["get_site", "get_trend"] } };
    showSite(SITE);
    const places = await screen.findByRole("navigation", { name: "Places of the site" });
    await waitFor(() => expect(places.textContent).toBe("Trend"));
    await screen.findByText("the trend");
  });

  it("offers nothing to those who may not", async () => {
    stub.answers["GET /session"] = { body: { ...ME, role: "fixer", may: ["get_site"] } };
    showSite({ ...SITE, last_run: failed, can_go_on: true });
    await screen.findByRole("alert");
    await waitFor(() => expect(stub.sent.some((s) => s.path === "/session")).toBe(true));
    expect(screen.queryByText("Run audit")).toBeNull();
    expect(screen.queryByText("Resume run")).toBeNull();
  });
  it("names the site in the title of the window", async () => {
    showSite(SITE);
    await waitFor(() => expect(document.title).toBe("Summary · a.example · Hodcarrier"));
  });
  it("keeps what was shown when it cannot be read again", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    showSite(SITE);
    await screen.findByText("a.example");
    stub.answers["GET /sites/9"] = { status: 503, body: { detail: "The register is busy.", hint: "" } };
    await vi.advanceTimersByTimeAsync(21_000);
    expect((await screen.findByRole("alert")).textContent).toMatch(/The register is busy\..*What you see is as of/);
    expect(screen.getByText("a.example")).toBeTruthy();
    vi.useRealTimers();
  });
  it("says why a new one cannot begin", async () => {
    const body = { detail: "a.example is being audited already.", hint: "Wait for it." };
    stub.answers["POST /sites/9/runs"] = { status: 409, body };
    showSite(SITE);
    fireEvent.click(await screen.findByText("Run audit"));
    expect((await screen.findByRole("alert")).textContent).toContain("a.example is being audited already.");
  });
});
