import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { RunBrief, Site } from "../../api/types";
import { ME, service, show } from "../../testing";
import { auditBefore } from "./appearance";
import { UserAgents } from "./user-agents";

const stub = service();
const SITE = { id: 9, host: "a.example", kind: "own" } as Site;
const run = (more: object) =>
  ({
    id: "phone1",
    site_id: 9,
    state: "done",
    purpose: "user-agent",
    appearance: "phone",
    requested_at: "2026-11-10T09:00:00Z",
    finished_at: "2026-11-10T09:01:00Z",
    health: 80,
    findings: 3,
    pages: 10,
    file: "kept",
    ...more,
  }) as RunBrief;
const LIST = "GET /runs?site=9&purpose=user-agent&limit=50";

function open(items: RunBrief[], head = "") {
  const chosen: string[] = [];
  Object.assign(stub.answers, {
    "GET /session": { body: { ...ME, may: [...ME.may, "fetch_as", "list_runs"] } },
    "GET /sites/9/plan": { body: { values: { appearance: "own" }, version: 1 } },
    [LIST]: { body: { items, total: items.length, after: null } },
    "POST /sites/9/user-agents/desktop": { body: run({ id: "new", appearance: "desktop" }) },
  });
  show(<UserAgents site={SITE} head={head} choose={(made) => chosen.push(made.id)} />);
  return chosen;
}

test("what was crawled is compared, what was not is crawled", async () => {
  const chosen = open([run({})]);
  fireEvent.click(await screen.findByText("Compare"));
  expect(chosen).toEqual(["phone1"]);
  expect(screen.getByText("not crawled yet")).toBeTruthy();
  expect(screen.queryByText(/As our own user agent/)).toBeNull();
  fireEvent.click(await screen.findByRole("button", { name: "Crawl" }));
  await waitFor(() =>
    expect(stub.sent.some((sent) => sent.method === "POST" && sent.path === "/sites/9/user-agents/desktop")).toBe(true),
  );
});

test("one that failed says why and is not compared", async () => {
  open([run({ state: "failed", reason: "No answer.", findings: null })]);
  expect(await screen.findByText(/failed .*: No answer\./)).toBeTruthy();
  expect(screen.queryByText("Compare")).toBeNull();
});

test("the one that is shown says so", async () => {
  open([run({})], "phone1");
  expect(await screen.findByText("shown below")).toBeTruthy();
});

test("it is compared with the audit before it, not with one that came later", () => {
  const audits = ["2026-11-17T02:00:00Z", "2026-11-10T02:00:00Z", "2026-11-03T02:00:00Z"].map((at, n) =>
    run({ id: `audit${n}`, purpose: "audit", appearance: null, requested_at: at }),
  );
  expect(auditBefore(audits, run({}))?.id).toBe("audit1");
  expect(auditBefore([], run({}))).toBeUndefined();
});
