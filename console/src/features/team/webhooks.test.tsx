import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { Webhooks } from "./webhooks";

const HOOK = {
  id: 3,
  name: "Agency chat",
  url: "https://hooks.agency.example/audits",
  topics: ["alert.raised"],
  client_id: null,
  client_name: "",
  active: true,
  waiting: 2,
  given_up: 0,
  paused_until: "2999-11-24T02:04:00Z",
  last_at: "2026-11-24T02:04:00Z",
  last_error: "The receiver answered 503.",
  created_at: "2026-11-24T02:04:00Z",
};

const stub = service();
beforeEach(() => {
  stub.answers["GET /webhooks"] = { body: [HOOK] };
  stub.answers["GET /clients"] = { body: [] };
});

describe("webhooks", () => {
  it("says what each is told and what stands in the way", async () => {
    show(<Webhooks />);
    expect(await screen.findByText("alert.raised")).toBeTruthy();
    expect(screen.getByText("2 messages waiting")).toBeTruthy();
    expect(screen.getByText(/The receiver answered 503\. Tried again/)).toBeTruthy();
  });

  it("makes one for chosen topics and shows its secret once", async () => {
    stub.answers["POST /webhooks"] = { status: 201, body: { ...HOOK, id: 4, name: "Board", secret: "whsec_abc" } };
    show(<Webhooks />);
    fireEvent.change(await screen.findByLabelText("Name"), { target: { value: "Board" } });
    fireEvent.change(screen.getByLabelText("Address"), { target: { value: "https://board.example/" } });
    fireEvent.click(screen.getByLabelText("Told of everything"));
    fireEvent.click(screen.getByLabelText("a run fails"));
    fireEvent.click(screen.getByText("Add webhook"));
    expect(await screen.findByText("whsec_abc")).toBeTruthy();
    expect(stub.sent.find((s) => s.method === "POST")?.body).toEqual({
      name: "Board",
      url: "https://board.example/",
      client_id: null,
      topics: ["run.failed"],
    });
  });

  it("shows what it was told, and sends a message again", async () => {
    stub.answers["GET /webhooks/3/messages"] = {
      body: [
        {
          id: 9,
          message_id: "msg_1",
          topic: "run.failed",
          at: "2026-11-24T02:04:00Z",
          state: "given up",
          attempts: 9,
          sent_at: null,
          status: 503,
          error: "The receiver answered 503.",
          body: '{"type":"run.failed"}',
        },
      ],
    };
    stub.answers["POST /webhooks/3/messages/9/again"] = { status: 202, body: {} };
    show(<Webhooks />);
    fireEvent.click(await screen.findByText("log"));
    fireEvent.click(await screen.findByLabelText("Send message 9 again"));
    await waitFor(() => expect(stub.sent.some((s) => s.path.endsWith("/messages/9/again"))).toBe(true));
  });
});
