import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, it } from "vitest";
import type { Member } from "../../api/types";
import { ME, service, show } from "../../testing";
import { YourMails } from "./your-mails";

const stub = service();
const TIMES: Member["mail_times"] = {
  mentioned: "at-once",
  assigned: "at-once",
  reopened: "at-once",
  commented: "at-once",
  overdue: "daily",
  "due-soon": "daily",
  confirmed: "daily",
};

it("says when each mail comes, and changes the hour of the daily one", async () => {
  const me: Member = {
    ...ME,
    email: "imke@agency.example",
    role: "lead",
    active: true,
    invited: false,
    second_on: false,
    open_todos: 0,
    overdue_todos: 0,
    date_order: "day-first",
    may: [],
    mail_times: TIMES,
    morning: false,
    mail_hour: 7,
    mail_zone: "UTC",
  };
  stub.answers["PATCH /session"] = { body: me };
  show(<YourMails me={me} />);
  expect((await screen.findByLabelText("A to-do is overdue")).textContent).toContain("in the daily mail");
  const zone = screen.getByLabelText("Time zone");
  fireEvent.change(zone, { target: { value: "Europe/Oslo" } });
  fireEvent.keyDown(zone, { key: "Enter" });
  fireEvent.click(screen.getByLabelText(/The desk by mail/));
  fireEvent.click(screen.getByText("Save"));
  await waitFor(() => expect(stub.sent.some((s) => s.method === "PATCH")).toBe(true));
  expect(stub.sent.find((s) => s.method === "PATCH")?.body).toEqual({
    mail_times: TIMES,
    morning: true,
    mail_hour: 7,
    mail_zone: "Europe/Oslo",
  });
});
