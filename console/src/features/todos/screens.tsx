import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useMay } from "../../api/hooks";
import { clients } from "../../api/queries/sites";
import { todos } from "../../api/queries/work";
import { useAddress } from "../../lib/address";
import { plural } from "../../lib/words";
import { type Choice, SearchInput, Segments, Select } from "../../ui/controls";
import { Button, Heading, LinkButton, Title } from "../../ui/parts";
import { SEVERITIES } from "../../ui/signs";
import { useAssignable } from "./assignable";
import { Board } from "./board";
import { Calendar } from "./calendar";
import { PRIORITIES } from "./fields";
import { DUE, type Filters, filtersOf, STATES } from "./filters";
import { TodoList } from "./list";
import { WhoHasWhat } from "./load";
import { SavedViews } from "../shell/saved-views";
import { NewTodo } from "./new-todo";
import { TakeTable } from "./take-table";

const VIEWS = ["list", "board", "calendar"] as const;

export function TodosScreen() {
  const [view, set] = useAddress();
  const may = useMay();
  const [making, setMaking] = useState(false);
  const [taking, setTaking] = useState(false);
  const shown = VIEWS.find((name) => name === view.get("view")) ?? "list";
  const filters = filtersOf(view);
  return (
    <>
      <Title of={["To-dos"]} />
      <Heading title="To-dos">
        <Segments
          label="View"
          value={shown}
          onChange={(name) => set("view", name === "list" ? "" : name)}
          choices={[
            { value: "list", label: "List" },
            { value: "board", label: "Board" },
            { value: "calendar", label: "Calendar" },
          ]}
        />
        <SavedViews place="todos" />
        {may("add_todo") && (
          <Button main onClick={() => setMaking(true)}>
            New to-do
          </Button>
        )}
      </Heading>
      <NewTodo open={making} onOpenChange={setMaking} />
      <TakeTable open={taking} onOpenChange={setTaking} />
      <div className="mt-1 flex flex-wrap gap-x-4 text-sm [&>*]:min-h-[24px]">
        {may("answer_approval") && <Link to="/approvals">Waiting for clients</Link>}
        {may("list_recurring") && <Link to="/todos/recurring">Recurring to-dos</Link>}
        {may("export_todos") && <a href={exportOf(filters, view.get("sort") ?? "due")}>Export CSV</a>}
        {may("import_todos") && <LinkButton onClick={() => setTaking(true)}>Import CSV</LinkButton>}
      </div>
      <WhoHasWhat client={filters.client} />
      <FilterBar view={view} set={set} board={shown === "board"} calendar={shown === "calendar"} filters={filters} />
      {shown === "list" && (
        <TodoList filters={filters} sort={view.get("sort") ?? "due"} onSort={(sort) => set("sort", sort)} />
      )}
      {shown === "board" && <Board filters={filters} />}
      {shown === "calendar" && (
        <Calendar filters={filters} month={view.get("month") ?? ""} onMonth={(m) => set("month", m)} />
      )}
    </>
  );
}

/** Where the list is as a table, narrowed down as it is shown. */
function exportOf(filters: Filters, sort: string): string {
  const given = Object.entries({ ...filters, sort }).filter(([, value]) => value !== undefined && value !== "");
  return `/api/v1/todos/export?${new URLSearchParams(given.map(([name, value]) => [name, String(value)]))}`;
}

const NARROWING = ["who", "client", "label", "severity", "priority", "due", "day", "text"];

/** What narrows the to-dos down; it is kept in the address. */
function FilterBar({
  view,
  set,
  board,
  calendar,
  filters,
}: {
  view: URLSearchParams;
  set: (name: string, value: string) => void;
  board: boolean;
  calendar: boolean;
  filters: Filters;
}) {
  const [, setView] = useSearchParams();
  const people = useAssignable();
  const labels = useQuery(todos.labels()).data ?? [];
  const firms = useQuery(clients.all()).data ?? [];
  const narrowed = NARROWING.filter((name) => view.get(name)).length;
  const pick = (name: string, label: string, all: string, choices: readonly Choice[]) => (
    <div className="w-36">
      <Select
        aria-label={label}
        value={view.get(name) ?? ""}
        onChange={(value) => set(name, value)}
        choices={[{ value: "", label: all }, ...choices]}
      />
    </div>
  );
  const words = (names: readonly string[]) => names.map((name) => ({ value: name, label: name }));
  const clear = () =>
    setView(new URLSearchParams([...view].filter(([name]) => !NARROWING.includes(name))), { replace: true });
  return (
    <div className="mt-3 mb-3 flex flex-wrap items-center gap-2">
      {!board && (
        <div className="w-48">
          <Select
            aria-label="State"
            value={filters.state ?? ""}
            onChange={(value) => set("state", value === "live" ? "" : value || "all")}
            choices={[
              ...STATES.map((name) => ({ value: name, label: name === "live" ? "open, doing, done" : name })),
              { value: "", label: "every state" },
            ]}
          />
        </div>
      )}
      {pick("who", "Assignee", "everybody", people)}
      {pick(
        "client",
        "Client",
        "all clients",
        firms.map((c) => ({ value: String(c.id), label: c.name })),
      )}
      {!calendar && pick("due", "Due", "due any time", DUE)}
      {pick("severity", "Severity", "any severity", words(SEVERITIES))}
      {pick("priority", "Priority", "any priority", words(PRIORITIES))}
      {labels.length > 0 && pick("label", "Label", "any label", words(labels))}
      <SearchInput
        label="Words in title or note"
        value={view.get("text") ?? ""}
        onChange={(text) => set("text", text)}
      />
      {narrowed > 0 && <LinkButton onClick={clear}>Clear {plural(narrowed, "filter")}</LinkButton>}
    </div>
  );
}
