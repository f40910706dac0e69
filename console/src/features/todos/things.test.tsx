import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import { ME, service, show } from "../../testing";
import { sameQuery, SavedViews } from "../shell/saved-views";
import { narrowed } from "../desk/screen";
import { base64Of } from "../../lib/base64";
import { Attachments, LARGEST } from "./attachments";
import { TakeTable } from "./take-table";

const stub = service();
const allowed = (...names: string[]) => ({ "GET /session": { body: { ...ME, may: names } } });
const sent = (path: string) => stub.sent.filter((s) => s.path === path && s.method === "POST").map((s) => s.body);

describe("a table of to-dos", () => {
  test("is checked before anything is made, and again when it changes", async () => {
    stub.answers["POST /todos/import"] = { body: { rows: 2, todos: [] } };
    show(<TakeTable open onOpenChange={() => undefined} />);
    const table = await screen.findByLabelText("Table");
    fireEvent.change(table, { target: { value: "site,title\na,b" } });
    fireEvent.click(screen.getByText("Check the table"));
    expect(await screen.findByText("Make 2 to-dos")).toBeTruthy();
    fireEvent.change(table, { target: { value: "site,title\na,c" } });
    expect(screen.queryByText("Make 2 to-dos")).toBeNull();
    fireEvent.click(screen.getByText("Check the table"));
    fireEvent.click(await screen.findByText("Make 2 to-dos"));
    await waitFor(() =>
      expect(sent("/todos/import")).toEqual([
        { csv: "site,title\na,b", check_only: true },
        { csv: "site,title\na,c", check_only: true },
        { csv: "site,title\na,c", check_only: false },
      ]),
    );
  });

  test("that is wrong says in which line", async () => {
    stub.answers["POST /todos/import"] = {
      status: 422,
      body: { detail: "Line 3: the to-do has no title.", hint: "Give one.", field: "csv" },
    };
    show(<TakeTable open onOpenChange={() => undefined} />);
    fireEvent.change(await screen.findByLabelText("Table"), { target: { value: "x" } });
    fireEvent.click(screen.getByText("Check the table"));
    expect(await screen.findByText(/Line 3: the to-do has no title/)).toBeTruthy();
  });
});

describe("attachments", () => {
  const todo = { id: 4 } as never;
  const file = (name: string, size = 3) => {
    const made = new File(["abc"], name, { type: "image/png" });
    Object.defineProperty(made, "size", { value: size });
    Object.defineProperty(made, "arrayBuffer", {
      value: () => Promise.resolve(new TextEncoder().encode("abc").buffer),
    });
    return made;
  };

  test("are sent as base64, and what is too large is not", async () => {
    stub.answers["GET /todos/4/files"] = { body: [] };
    stub.answers["POST /todos/4/files"] = { body: { id: 1, name: "a.png" } };
    show(<Attachments todo={todo} mine />);
    fireEvent.change(await screen.findByLabelText("Files to attach"), {
      target: { files: [file("large.png", LARGEST + 1), file("a.png")] },
    });
    await waitFor(() => expect(sent("/todos/4/files")).toEqual([{ name: "a.png", content: "YWJj" }]));
    expect(await screen.findByText(/Attached a.png/)).toBeTruthy();
  });

  test("of a colleague's to-do are there to read, and nothing when there are none", async () => {
    stub.answers["GET /todos/4/files"] = {
      body: [
        { id: 7, name: "notes.txt", media: "text/plain", size: 10, author: "Oona", created_at: "2026-11-03T02:00:00Z" },
      ],
    };
    show(<Attachments todo={todo} mine={false} />);
    expect((await screen.findByText("notes.txt")).closest("a")?.getAttribute("href")).toBe("/api/v1/todos/4/files/7");
    expect(screen.queryByText("Attach files")).toBeNull();
    expect(screen.queryByText("remove")).toBeNull();
  });

  test("of any length are encoded whole", () => {
    const bytes = new Uint8Array(100_003).map((_, i) => i % 251);
    const back = Uint8Array.from(atob(base64Of(bytes.buffer)), (c) => c.charCodeAt(0));
    expect(back).toEqual(bytes);
  });
});

describe("saved views", () => {
  const view = (id: number, name: string, more = {}) => ({
    id,
    name,
    place: "todos",
    query: "who=1&due=overdue",
    shared: false,
    own: true,
    author: "Imke",
    ...more,
  });
  const open = async (at: string) => {
    Object.assign(stub.answers, allowed("list_views"), {
      "GET /views?place=todos": {
        body: [view(1, "Mine"), view(2, "Theirs", { own: false, shared: true, author: "Tobin", query: "client=2" })],
      },
    });
    const router = show([{ path: "/todos", element: <SavedViews place="todos" /> }], { at });
    fireEvent.keyDown(await screen.findByRole("button", { name: "Saved views" }), { key: "Enter" });
    return router;
  };

  test("lead to the filters they were saved with", async () => {
    const router = await open("/todos");
    fireEvent.click(await screen.findByText("Theirs"));
    await waitFor(() => expect(router.state.location.search).toBe("?client=2"));
  });

  test("say which one is shown, in whatever order its filters stand, and one's own can be removed", async () => {
    await open("/todos?due=overdue&who=1");
    expect(await screen.findByText("Remove “Mine”")).toBeTruthy();
    fireEvent.click(screen.getByText("Remove “Mine”"));
    await waitFor(() => expect(stub.sent.some((s) => s.method === "DELETE" && s.path === "/views/1")).toBe(true));
  });

  test("are saved with the filters as they are", async () => {
    await open("/todos?label=seo");
    fireEvent.click(await screen.findByText("Save these filters…"));
    fireEvent.change(await screen.findByLabelText(/^Name/), { target: { value: "SEO" } });
    fireEvent.click(screen.getByText("Save view"));
    await waitFor(() =>
      expect(sent("/views")).toEqual([{ place: "todos", name: "SEO", query: "label=seo", shared: false }]),
    );
  });

  test.each([
    ["a=1&b=2", "?b=2&a=1", true],
    ["", "?", true],
    ["a=1", "a=2", false],
  ])("%s and %s are the same: %s", (a, b, same) => expect(sameQuery(a, b)).toBe(same));
});

test("the desk's sites are narrowed by text, tag and who is in charge", () => {
  const row = (host: string, more = {}) => ({
    site: { host, client_name: "Rope", tags: [], client_tags: [], owner_id: null, ...more },
  });
  const all = [
    row("a.example", { tags: ["retail"] }),
    row("b.example", { client_tags: ["retail"], owner_id: 3 }),
  ] as never[];
  const hosts = (query: string) => narrowed(all, new URLSearchParams(query)).map((r) => r.site.host);
  expect(hosts("")).toEqual(["a.example", "b.example"]);
  expect(hosts("tag=retail")).toEqual(["a.example", "b.example"]);
  expect(hosts("owner=3")).toEqual(["b.example"]);
  expect(hosts("text=rope+a")).toEqual(hosts("text=rope a"));
  expect(hosts("text=b.ex")).toEqual(["b.example"]);
});
