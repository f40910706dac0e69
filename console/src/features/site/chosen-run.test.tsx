import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { Link, Outlet } from "react-router";
import { service, show } from "../../testing";
import { EarlierRun, useSite } from "./context";
import { useContext } from "react";
import { nameOf, useChosenRun } from "./chosen-run";
import { SiteFrame } from "./frame";

const stub = service();
const run = (id: string, at: string) => ({
  id,
  site_id: 9,
  site_host: "a.example",
  state: "done",
  purpose: "audit",
  requested_at: at,
  started_at: at,
  finished_at: at,
  health: 80,
  findings: 3,
  pages: 10,
  end_words: "whole site reached",
});
const OLD = run("old", "2026-11-03T02:00:00Z");
const NEW = run("new", "2026-11-10T02:00:00Z");

function Place({ name }: { name: string }) {
  const { run } = useSite();
  const earlier = useContext(EarlierRun);
  return (
    <p>
      {name}: {run?.id} {earlier ? "earlier" : "latest"} <Link to="/sites/9/findings">to findings</Link>
    </p>
  );
}

function open(at: string) {
  Object.assign(stub.answers, {
    "GET /session": { body: { id: 1, role: "lead", may: ["get_run", "list_runs", "list_checks"] } },
    "GET /sites/9": {
      body: { id: 9, host: "a.example", kind: "own", client_id: 1, client_name: "A", runs: 2, last_run: NEW },
    },
    "GET /runs/latest-9": { body: NEW },
    "GET /runs/old": { body: OLD },
    "GET /runs/9%402026-11-05": { body: OLD },
    "GET /runs/new": { body: NEW },
    "GET /runs/foreign": { body: { ...OLD, id: "foreign", site_id: 4 } },
    "GET /runs?site=9&limit=1000": { body: { items: [NEW, OLD], total: 2, after: null } },
  });
  return show(
    [
      {
        path: "/sites/:siteId",
        element: <SiteFrame />,
        children: [
          { index: true, element: <Place name="summary" /> },
          { path: "findings", element: <Place name="findings" /> },
        ],
      },
    ],
    { at },
  );
}

test("without a word about it the latest run is shown", async () => {
  open("/sites/9");
  await waitFor(() => expect(screen.getByText(/summary:/).textContent).toContain("new latest"));
  expect(screen.queryByText(/You see the run of/)).toBeNull();
});

test.each(["old", "2026-11-05"])("an earlier run, by id or day, stays chosen from place to place: %s", async (name) => {
  const router = open(`/sites/9?run=${name}`);
  await waitFor(() => expect(screen.getByText(/summary:/).textContent).toContain("old earlier"));
  fireEvent.click(screen.getByText("to findings"));
  await waitFor(() => expect(screen.getByText(/findings:/).textContent).toContain("old earlier"));
  await waitFor(() => expect(router.state.location.search).toBe(`?run=${name}`));
  fireEvent.click(screen.getByText("Show the latest"));
  await waitFor(() => expect(screen.getByText(/findings:/).textContent).toContain("new latest"));
  await waitFor(() => expect(router.state.location.search).toBe(""));
});

test("the latest by its id is no earlier run", async () => {
  open("/sites/9?run=new");
  await waitFor(() => expect(screen.getByText(/summary:/).textContent).toContain("new latest"));
});

test("a run of another site is not shown as one of this", async () => {
  open("/sites/9?run=foreign");
  await waitFor(() => expect(screen.getByText(/summary:/).textContent).toContain("new latest"));
});

test("a day is asked for with its site", () => {
  expect(nameOf(9, "2026-11-05")).toBe("9@2026-11-05");
  expect(nameOf(9, "abc")).toBe("abc");
});

test("what was chosen on one site is not looked for on another", async () => {
  function Two({ id }: { id: number }) {
    return <p>chosen: {useChosenRun({ id } as never) || "latest"}</p>;
  }
  const router = show(
    [
      { path: "/1", element: <Two id={1} /> },
      { path: "/2", element: <Two id={2} /> },
      { path: "*", element: <Outlet /> },
    ],
    { at: "/1?run=old" },
  );
  expect(await screen.findByText("chosen: old")).toBeTruthy();
  await router.navigate("/2");
  expect(await screen.findByText("chosen: latest")).toBeTruthy();
});
