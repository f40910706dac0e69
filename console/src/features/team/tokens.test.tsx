import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { Tokens, TokensOfEverybody } from "./tokens";

const TOKEN = {
  id: 4,
  name: "build server",
  begins: "hod_1234",
  scope: "read",
  member_name: "Oona Featherby",
  created_at: "2026-11-24T02:04:00Z",
  expires_at: "2999-11-24T02:04:00Z",
  revoked_at: null,
};

const stub = service();
beforeEach(() => {
  stub.answers["GET /tokens"] = {
    body: [TOKEN, { ...TOKEN, id: 5, name: "gone", revoked_at: "2026-11-25T02:04:00Z" }],
  };
  stub.answers["GET /tokens/everybody"] = {
    body: [TOKEN, { ...TOKEN, id: 6, name: "long ago", expires_at: "2020-01-01T00:00:00Z" }],
  };
});

describe("tokens", () => {
  it("says what each is good for and until when", async () => {
    show(<Tokens />);
    expect(await screen.findByText("build server")).toBeTruthy();
    expect(screen.getByText(/for reading, ends/)).toBeTruthy();
    expect(screen.queryByText("gone")).toBeNull();
  });

  it("makes one and shows its secret once", async () => {
    stub.answers["POST /tokens"] = { status: 201, body: { ...TOKEN, secret: "hod_secret" } };
    show(<Tokens />);
    fireEvent.change(await screen.findByLabelText(/Purpose/), { target: { value: "laptop" } });
    fireEvent.click(screen.getByText("Make a token"));
    expect(await screen.findByText("hod_secret")).toBeTruthy();
    const sent = stub.sent.find((s) => s.method === "POST");
    expect(sent?.body).toEqual({ name: "laptop", scope: "all", days: 365 });
  });

  it("lets an owner revoke those of others that still open something", async () => {
    show(<TokensOfEverybody />);
    expect(await screen.findByText(/Oona Featherby/)).toBeTruthy();
    expect(screen.queryByText("long ago")).toBeNull();
    fireEvent.click(screen.getByLabelText("Revoke build server"));
    await waitFor(() => expect(stub.sent.some((s) => s.method === "DELETE" && s.path === "/tokens/4")).toBe(true));
  });
});
