import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Outlet } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { TodoScreen } from "./detail";

const TODO = {
  id: 4,
  site_id: 1,
  site_host: "shop.example",
  client_name: "Rope & Sail",
  title: "Repair the links",
  note: "Old note",
  check: "",
  severity: "high",
  state: "open",
  flag: "",
  drop_reason: "",
  assignee_id: null,
  assignee: "",
  author: "Imke",
  due: "2026-12-04",
  priority: "normal",
  estimate_hours: null,
  labels: [],
  watchers: [],
  gain: null,
  approval: "",
  overdue: false,
  days_late: 0,
  places: 0,
  cleared: 0,
  created_at: "2026-11-24T02:04:00Z",
  closed_at: null,
  version: 1,
  events: [],
  linked: [],
};

const stub = service();
beforeEach(() => {
  stub.answers["GET /session"] = { body: { id: 1, role: "lead", may: ["change_todo", "add_todo_link"] } };
  stub.answers["GET /todos/4"] = { body: TODO };
  stub.answers["GET /todos/4/links"] = { body: [] };
  stub.answers["GET /todos/4/files"] = { body: [] };
  stub.answers["GET /members"] = { body: [] };
  stub.answers["GET /clients"] = { body: [] };
});

const screenOf = () =>
  show(
    [
      {
        element: <Outlet context={{ id: 1, role: "lead" }} />,
        children: [{ path: "/todos/:todoId", element: <TodoScreen /> }],
      },
    ],
    { at: "/todos/4" },
  );

describe("a to-do", () => {
  it("keeps a note that is being written while something else changes", async () => {
    stub.answers["PATCH /todos/4"] = { body: { ...TODO, version: 2, state: "doing" } };
    screenOf();
    fireEvent.change(await screen.findByLabelText("Note"), { target: { value: "Half a sen" } });
    stub.answers["GET /todos/4"] = { body: { ...TODO, version: 2, state: "doing" } };
    fireEvent.click(screen.getByText("Begin"));
    expect(await screen.findByText("doing")).toBeTruthy();
    expect(screen.getByLabelText("Note")).toHaveProperty("value", "Half a sen");
  });

  it("tells when somebody else has changed the note meanwhile", async () => {
    stub.answers["PATCH /todos/4"] = { status: 409, body: { detail: "Somebody changed this to-do.", hint: "" } };
    screenOf();
    fireEvent.change(await screen.findByLabelText("Note"), { target: { value: "Mine" } });
    stub.answers["GET /todos/4"] = { body: { ...TODO, version: 2, note: "Theirs" } };
    fireEvent.click(screen.getByText("Save note"));
    expect(await screen.findByText(/Somebody has changed the note since you began/)).toBeTruthy();
    expect(screen.getByLabelText("Note")).toHaveProperty("value", "Mine");
    fireEvent.click(screen.getByText("Take theirs instead"));
    await waitFor(() => expect(screen.getByLabelText("Note")).toHaveProperty("value", "Theirs"));
    expect(screen.queryByText(/Somebody has changed the note/)).toBeNull();
  });

  it("keeps what was typed when the service refuses it", async () => {
    stub.answers["PATCH /todos/4"] = {
      status: 422,
      body: { detail: "The due date is in the past.", hint: "Give a later one." },
    };
    screenOf();
    fireEvent.change(await screen.findByLabelText("Estimate in hours"), { target: { value: "3" } });
    fireEvent.click(await screen.findByText("Save changes"));
    expect(await screen.findByText(/The due date is in the past/)).toBeTruthy();
    expect(screen.getByLabelText("Estimate in hours")).toHaveProperty("value", "3");
    expect(screen.getByText("Save changes")).toBeTruthy();
    await waitFor(() => expect(stub.sent.find((s) => s.method === "PATCH")?.headers.get("If-Match")).toBe('"1"'));
  });
});
