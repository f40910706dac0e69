import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { RunFiles } from "./files";

const OLD = { run_id: "a1", site_host: "shop.example", requested_at: "2026-01-06T02:04:00Z", size_bytes: 1_048_576 };
const RULE = { weeks: 26, kept: 30, kept_bytes: 2_097_152, removable: [OLD], removable_bytes: 1_048_576 };

const stub = service();
beforeEach(() => {
  stub.answers["GET /session"] = { body: { id: 1, may: ["get_retention", "apply_retention"] } };
  stub.answers["GET /retention?weeks=26"] = { body: RULE };
});

describe("run files", () => {
  it("says what a rule would free, and removes nothing before that is confirmed", async () => {
    show(<RunFiles />);
    expect(await screen.findByText(/1 file \(1\.0 MiB\) would go, the oldest of shop\.example/)).toBeTruthy();
    fireEvent.click(await screen.findByText("Remove 1 file (1.0 MiB)"));
    expect(await screen.findByText(/cannot be opened again/)).toBeTruthy();
    expect(stub.sent.some((s) => s.method === "POST")).toBe(false);
    stub.answers["POST /retention"] = { body: RULE };
    fireEvent.click(screen.getByText("Remove"));
    await waitFor(() => expect(stub.sent.find((s) => s.method === "POST")?.body).toEqual({ weeks: 26 }));
  });

  it("says that a rule lets nothing go", async () => {
    stub.answers["GET /retention?weeks=26"] = {
      body: { weeks: 26, kept: 3, kept_bytes: 1_048_576, removable: [], removable_bytes: 0 },
    };
    show(<RunFiles />);
    expect(await screen.findByText(/This rule lets no file go: 3 files \(1\.0 MiB\) stay/)).toBeTruthy();
    expect(screen.queryByText(/^Remove/)).toBeNull();
  });
});
