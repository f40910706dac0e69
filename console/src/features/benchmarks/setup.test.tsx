import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Benchmark } from "../../api/types";
import { choose, ME, service, show } from "../../testing";
import { EditBenchmark, NewBenchmark, RoundSchedule } from "./setup";

const stub = service();
const site = (id: number, host: string, kind: string, client_id = 1) => ({
  id, host, kind, client_id, client_name: client_id === 1 ? "Rope & Sail" : "Kiln", tags: [],
}); // prettier-ignore
const SITES = [
  site(1, "rope.example", "own"),
  site(2, "rival.example", "competitor"),
  site(3, "second.example", "competitor"),
  site(4, "kiln.example", "own", 2),
  site(5, "oven.example", "competitor", 2),
];
const DATA = {
  id: 7,
  name: "Ropes",
  site_id: 1,
  site_host: "rope.example",
  competitors: ["rival.example"],
  competitor_ids: [2],
  rounds: 3,
  pages_max: 300,
  rate_per_s: 5,
  schedule: null,
} as Benchmark;

function open(element: React.ReactNode, more: string[] = []) {
  Object.assign(stub.answers, {
    "GET /session": { body: { ...ME, may: [...ME.may, "add_benchmark", "change_benchmark", ...more] } },
    "GET /sites": { body: SITES },
    "POST /benchmarks": { status: 201, body: { id: 9 } },
    "PATCH /benchmarks/7": { body: { id: 7 } },
    "DELETE /benchmarks/7": { status: 204, body: null },
    "PUT /benchmarks/7/schedule": { body: { rule: "monthly:1" } },
  });
  show([{ path: "/", element }, { path: "/benchmarks", element: <p>all</p> }, { path: "/benchmarks/:id", element: <p>the new one</p> }]); // prettier-ignore
}
const sent = (method: string) => stub.sent.find((each) => each.method === method);

test("a new one names a site and competitors of the same client", async () => {
  open(<NewBenchmark />);
  fireEvent.click(await screen.findByRole("button", { name: "New benchmark" }));
  await choose("Our site", "rope.example, Rope & Sail");
  expect(screen.getByLabelText("Name")).toHaveProperty("value", "Rope & Sail");
  expect(screen.queryByLabelText("oven.example")).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Set up" }));
  expect(await screen.findByText("Choose at least one competitor.")).toBeTruthy();
  fireEvent.click(screen.getByLabelText("rival.example"));
  fireEvent.click(screen.getByRole("button", { name: "Set up" }));
  await screen.findByText("the new one");
  expect(sent("POST")?.body).toEqual({
    name: "Rope & Sail", site_id: 1, competitor_ids: [2], pages_max: 500, rate_per_s: 5,
  }); // prettier-ignore
});

test("competitors are changed, and the benchmark is removed only when one is sure", async () => {
  open(<EditBenchmark data={DATA} />, ["remove_benchmark"]);
  fireEvent.click(await screen.findByRole("button", { name: "Edit" }));
  fireEvent.click(await screen.findByLabelText("second.example"));
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(sent("PATCH")?.body).toEqual({ name: "Ropes", competitor_ids: [2, 3], pages_max: 300, rate_per_s: 5 }),
  );
  fireEvent.click(await screen.findByRole("button", { name: "Edit" }));
  fireEvent.click(await screen.findByText("Remove this benchmark"));
  expect(sent("DELETE")).toBeUndefined();
  expect(screen.getByText(/with its 3 rounds/)).toBeTruthy();
  fireEvent.click(screen.getByText("Remove it"));
  await waitFor(() => expect(sent("DELETE")?.path).toBe("/benchmarks/7"));
});

test("rounds get a schedule", async () => {
  open(<RoundSchedule data={DATA} />, ["set_round_schedule"]);
  expect(await screen.findByText("A round begins only when somebody asks for one.")).toBeTruthy();
  fireEvent.click(await screen.findByText("set a schedule"));
  fireEvent.click(await screen.findByRole("button", { name: "Save schedule" }));
  await waitFor(() => expect(sent("PUT")?.body).toMatchObject({ rule: "monthly:1", at: "03:00" }));
});
