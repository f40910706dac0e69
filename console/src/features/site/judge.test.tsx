import { fireEvent, screen } from "@testing-library/react";
import { beforeEach, expect, it } from "vitest";
import { service, show } from "../../testing";
import { Judge } from "./judge";

const RUN = { id: "r1", site_id: 9, requested_at: "2026-11-27T02:04:00Z", health: 70, findings: 1200 };
const stub = service();
const context = { site: { id: 9, host: "a.example" }, run: RUN };
const values = () => ({ profile: "Shop", thresholds: { words_min: 80 }, rate_per_s: 2, start: ["https://a.example/"] });
beforeEach(() => {
  stub.answers["POST /runs/r1/examine"] = { status: 202, body: { ...RUN, id: "r2", state: "queued" } };
});

it("sends only what judges, and says what comes of it", async () => {
  const body = { ...RUN, id: "r2", state: "done", health: 74.5, findings: 900, health_change: 4.5 };
  stub.answers["GET /runs/r2"] = { body };
  show(<Judge values={values} />, { context });
  fireEvent.click(await screen.findByText("Re-examine last run"));
  expect((await screen.findByText(/Health 70.0 → 74.5/)).textContent).toContain("+4.5");
  expect(screen.getByText("See what differs").getAttribute("href")).toBe("/sites/9/changes?base=r1&head=r2");
  const asked = stub.sent.find((s) => s.method === "POST");
  expect(asked?.body).toEqual({ profile: "Shop", values: { thresholds: { words_min: 80 } } });
});
it("says that it goes on, and why it failed", async () => {
  stub.answers["GET /runs/r2"] = { body: { ...RUN, id: "r2", state: "examining" } };
  show(<Judge values={values} />, { context });
  fireEvent.click(await screen.findByText("Re-examine last run"));
  expect(await screen.findByText(/Re-examining the run/)).toBeTruthy();
  stub.answers["GET /runs/r2"] = { body: { ...RUN, id: "r2", state: "failed", reason: "The disk is full." } };
  expect(await screen.findByText(/It failed: The disk is full/, {}, { timeout: 3000 })).toBeTruthy();
});
it("has nothing to judge before there is a run", () => {
  show(<Judge values={values} />, { context: { ...context, run: null } });
  expect(screen.queryByText("Re-examine last run")).toBeNull();
});
