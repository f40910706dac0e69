import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useForm } from "react-hook-form";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { DateOrder } from "../lib/dates";
import { choose } from "../testing";
import { DateOrderContext } from "./controls";
import { Field, Form } from "./form";
import type { Problem } from "./state";

afterEach(cleanup);

type Values = { day: string; time: string; mail: string; who: string; on: boolean };
const EMPTY: Values = { day: "", time: "", mail: "", who: "", on: false };
const WHO = [
  { value: "", label: "Unassigned" },
  { value: "7", label: "Oona" },
];

function Example({
  send,
  order = "day-first",
  error,
}: {
  send: (v: Values) => void;
  order?: DateOrder;
  error?: Problem;
}) {
  const form = useForm({ defaultValues: EMPTY });
  return (
    <DateOrderContext value={order}>
      <Form form={form} onSend={send} error={error}>
        <Field name="day" label="Due" kind="day" />
        <Field name="time" label="At" kind="time" />
        <Field name="mail" label="Mail" kind="email" required />
        <Field name="who" label="Who" kind="choice" choices={WHO} />
        <Field name="on" label="Slow down" kind="tick" hint="When it struggles." />
        <button type="submit">Send</button>
      </Form>
    </DateOrderContext>
  );
}
const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("fields", () => {
  it.each([
    ["day-first", "4/12/2026"],
    ["month-first", "12/4/2026"],
    ["year-first", "2026-12-4"],
  ] as const)("%s: a day is typed as the profile writes it and sent as ISO", async (order, typed) => {
    const send = vi.fn();
    render(<Example send={send} order={order} />);
    type("Due", typed);
    type("At", "2.04");
    type("Mail", "imke@agency.example");
    await choose("Who", "Oona");
    fireEvent.click(screen.getByLabelText("Slow down"));
    fireEvent.click(screen.getByText("Send"));
    await waitFor(() => expect(send).toHaveBeenCalled());
    const values: Values = { day: "2026-12-04", time: "02:04", mail: "imke@agency.example", who: "7", on: true };
    expect(send.mock.calls[0]?.[0]).toEqual(values);
  });
  it("say what is wrong in the order of the profile, keep what was typed and send nothing", async () => {
    const send = vi.fn();
    render(<Example send={send} order="month-first" />);
    type("Due", "30/02/2026");
    type("At", "25:00");
    type("Mail", "imke");
    fireEvent.click(screen.getByText("Send"));
    expect(await screen.findByText("That is no day. Write it as mm/dd/yyyy.")).toBeTruthy();
    expect(screen.getByText(/That is no time/)).toBeTruthy();
    expect(screen.getByText("That is no e-mail address.")).toBeTruthy();
    expect(screen.getByLabelText("Due")).toHaveProperty("value", "30/02/2026");
    expect(send).not.toHaveBeenCalled();
  });
  it("say what is needed", async () => {
    render(<Example send={vi.fn()} />);
    fireEvent.click(screen.getByText("Send"));
    expect(await screen.findByText("Mail is needed.")).toBeTruthy();
  });
  it("take a day from a month", async () => {
    const send = vi.fn();
    render(<Example send={send} />);
    type("Due", "04/12/2026");
    fireEvent.click(screen.getByLabelText("Choose the due from a month"));
    fireEvent.click(await screen.findByRole("button", { name: /December 9th, 2026/ }));
    expect(screen.getByLabelText("Due")).toHaveProperty("value", "09/12/2026");
  });
});

describe("what the service refuses", () => {
  it("is said at its field", async () => {
    render(
      <Example
        send={vi.fn()}
        error={{ status: 422, detail: "That day is over.", hint: "Give a later one.", field: "day" }}
      />,
    );
    expect(await screen.findByText("That day is over. Give a later one.")).toBeTruthy();
    expect(screen.getByLabelText("Due").getAttribute("aria-invalid")).toBe("true");
    expect(screen.queryByRole("alert")).toBeNull();
  });
  it("is said below when no field is to blame", () => {
    render(<Example send={vi.fn()} error={{ status: 409, detail: "Somebody changed it.", hint: "Load it again." }} />);
    expect(screen.getByRole("alert").textContent).toContain("Somebody changed it.");
  });
});
