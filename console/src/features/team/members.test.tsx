import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Member } from "../../api/types";
import { service, show } from "../../testing";
import { Invite, Members } from "./members";

const IMKE: Member = {
  id: 1,
  name: "Imke Aldersgate",
  email: "imke@agency.example",
  role: "owner",
  active: true,
  invited: false,
  second_on: false,
  open_todos: 0,
  overdue_todos: 0,
  date_order: "day-first",
  mail_times: {},
  morning: false,
  mail_hour: 7,
  mail_zone: "UTC",
  may: [],
};
const CASPER: Member = { ...IMKE, id: 2, name: "Casper Dunmore", role: "fixer", open_todos: 3 };
const OONA: Member = { ...IMKE, id: 3, name: "Oona Featherby", role: "fixer", invited: true };

const stub = service();
beforeEach(() => {
  stub.answers["GET /session"] = { body: { ...IMKE, may: ["change_member", "invite_again", "invite_member"] } };
  stub.answers["GET /members"] = { body: [IMKE, CASPER, OONA] };
  stub.answers["GET /clients"] = { body: [] };
});

describe("members", () => {
  it("hands over the to-dos of whoever is switched off", async () => {
    stub.answers["PATCH /members/2"] = { body: CASPER };
    show(<Members me={IMKE} />);
    fireEvent.click(await screen.findByLabelText("Change Casper Dunmore"));
    expect(await screen.findByText(/3 to-dos must go to somebody/)).toBeTruthy();
    fireEvent.click(screen.getByText("Switch off"));
    await waitFor(() => expect(stub.sent.some((s) => s.method === "PATCH")).toBe(true));
    expect(stub.sent.find((s) => s.method === "PATCH")?.body).toEqual({ active: false, hand_to: null });
  });

  it("sends another invitation to who has not answered", async () => {
    stub.answers["POST /members/3/invitation"] = { body: OONA };
    show(<Members me={IMKE} />);
    expect(await screen.findByText("invited, no password yet")).toBeTruthy();
    fireEvent.click(await screen.findByLabelText("Invite Oona Featherby again"));
    expect((await screen.findAllByText("Oona Featherby is sent a new link.")).length).toBeGreaterThan(0);
  });

  it("invites somebody by name and address", async () => {
    stub.answers["POST /members/invitations"] = { status: 201, body: OONA };
    show(<Invite me={IMKE} />);
    fireEvent.change(await screen.findByLabelText("Name"), { target: { value: "Oona Featherby" } });
    fireEvent.change(screen.getByLabelText("Email"), { target: { value: "oona@agency.example" } });
    fireEvent.click(screen.getByText("Invite"));
    await waitFor(() => expect(stub.sent.some((s) => s.method === "POST")).toBe(true));
    expect(stub.sent.find((s) => s.method === "POST")?.body).toEqual({
      name: "Oona Featherby",
      email: "oona@agency.example",
      role: "analyst",
      client_id: null,
    });
  });
});
