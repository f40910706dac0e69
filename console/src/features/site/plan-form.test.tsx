import { useQuery } from "@tanstack/react-query";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Link } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import { plans } from "../../api/queries/sites";
import { choose, type Sent, service, show } from "../../testing";
import { AccessCard } from "./access";
import { PlanForm } from "./plan-form";
import { ShareCard } from "./share-plan";

const SETTINGS = [
  { name: "start", group: "extent", group_name: "What belongs", label: "Start URLs", text: "It begins here.", kind: "lines", advanced: false, choices: [], unit: "", locked: false },
  { name: "rate_per_s", group: "pace", group_name: "How gently", label: "Requests per second", text: "Fewer is gentler.", kind: "number", advanced: false, choices: [], unit: "", locked: false },
  { name: "adaptive", group: "pace", group_name: "How gently", label: "Slow down", text: "When it struggles.", kind: "switch", advanced: true, choices: [], unit: "", locked: false },
  { name: "appearance", group: "pace", group_name: "How gently", label: "User agent", text: "Who we are.", kind: "choice", advanced: false, choices: ["own", "phone"], unit: "", locked: false },
  { name: "thresholds", group: "pace", group_name: "How gently", label: "Limits", text: "Name and figure.", kind: "figures", advanced: true, choices: [], unit: "", locked: false },
  { name: "drop_parameters", group: "rest", group_name: "The rest", label: "To drop", text: "Names.", kind: "lines", advanced: true, choices: [], unit: "", locked: false },
  { name: "addresses", group: "extent", group_name: "What belongs", label: "A list", text: "Pages to fetch.", kind: "lines", advanced: true, choices: [], unit: "", locked: false },
]; // prettier-ignore
const VALUES = {
  start: ["https://a.example/"],
  rate_per_s: 5,
  adaptive: true,
  appearance: "own",
  thresholds: { words_min: 120 },
  drop_parameters: ["old"],
  addresses: [],
};
const PLAN = {
  values: VALUES,
  version: 3,
  defaults: { ...VALUES, thresholds: {} },
  proposed_drops: [],
  notices: [] as object[],
};
const SITE = { id: 9, host: "a.example", kind: "own", client_id: 1, client_name: "A", runs: 1 };

const stub = service();
beforeEach(() => {
  stub.answers["GET /plan-settings"] = { body: SETTINGS };
  stub.answers["GET /sites"] = { body: [SITE, { ...SITE, id: 4, host: "b.example" }] };
});
const CONTEXT = { context: { site: SITE, run: null } };
const last = (method: string) => stub.sent.filter((s) => s.method === method).at(-1) as Sent;

function Loading() {
  const plan = useQuery(plans.of(9));
  return plan.data && <PlanForm plan={plan.data} />;
}
/** The form of a plan as the service gives it. */
function showPlan(plan: object, beside?: React.ReactNode) {
  stub.answers["GET /sites/9/plan"] = { body: plan };
  show(<><Loading />{beside}</>, CONTEXT); // prettier-ignore
}

describe("the form of a plan", () => {
  it("is made of what the service says of each setting, advanced ones folded away", async () => {
    showPlan(PLAN);
    expect(await screen.findByLabelText(/Start URLs/)).toHaveProperty("value", "https://a.example/");
    expect(screen.getByText("Fewer is gentler.")).toBeTruthy();
    const folded = screen.getByText(/2 more settings/);
    expect(folded.textContent).toContain("Slow down, Limits (set)");
    expect(folded.closest("details")?.open).toBe(false);
  });

  it("offers to drop what looks like a session id", async () => {
    const proposed_drops = [{ name: "sid", addresses: 2, example: "https://a.example/x?sid=1" }];
    showPlan({ ...PLAN, proposed_drops });
    expect(await screen.findByText(/looks like a session id: 2 addresses/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Drop sid from URLs" }));
    expect(screen.getByLabelText(/To drop/)).toHaveProperty("value", "old\nsid");
    expect(screen.queryByText(/looks like a session id/)).toBeNull();
  });
  it("keeps what was typed when somebody else was faster, and says what they changed", async () => {
    showPlan(PLAN);
    fireEvent.change(await screen.findByLabelText(/Requests per second/), { target: { value: "2.5" } });
    stub.answers["PATCH /sites/9/plan"] = {
      status: 409,
      body: { detail: "Somebody changed this plan.", hint: "Look." },
    };
    const theirs = { ...VALUES, rate_per_s: 1, start: ["https://a.example/", "https://a.example/shop"] };
    stub.answers["GET /sites/9/plan"] = { body: { ...PLAN, version: 4, values: theirs } };
    fireEvent.click(screen.getByText("Save plan"));
    const told = (await screen.findByText(/Somebody has changed this plan since you began/)).parentElement;
    expect(told?.textContent).toContain("Requests per second from 5 to 1; saving replaces it with yours");
    expect(told?.textContent).toContain(
      "Start URLs from https://a.example/ to https://a.example/, https://a.example/shop",
    );
    expect(screen.getByLabelText(/Requests per second/)).toHaveProperty("value", "2.5");
    stub.answers["PATCH /sites/9/plan"] = { body: { ...PLAN, version: 5, values: { ...theirs, rate_per_s: 2.5 } } };
    fireEvent.click(screen.getByText("Save plan"));
    await waitFor(() => expect(last("PATCH").headers.get("If-Match")).toBe('"4"'));
    expect(last("PATCH").body).toMatchObject({ values: { rate_per_s: 2.5, start: theirs.start } });
  });

  it("takes theirs where one asks for it", async () => {
    showPlan(PLAN);
    fireEvent.change(await screen.findByLabelText(/Requests per second/), { target: { value: "2.5" } });
    stub.answers["PATCH /sites/9/plan"] = {
      status: 409,
      body: { detail: "Somebody changed this plan.", hint: "Look." },
    };
    stub.answers["GET /sites/9/plan"] = { body: { ...PLAN, version: 4, values: { ...VALUES, rate_per_s: 1 } } };
    fireEvent.click(screen.getByText("Save plan"));
    fireEvent.click(await screen.findByText("Take theirs and drop mine"));
    expect(screen.getByLabelText(/Requests per second/)).toHaveProperty("value", "1");
    expect(screen.queryByText(/since you began/)).toBeNull();
    expect(screen.queryByText(/not saved yet/)).toBeNull();
  });

  it("sends every setting with the version it was loaded in", async () => {
    showPlan(PLAN);
    fireEvent.change(await screen.findByLabelText(/Requests per second/), { target: { value: "2.5" } });
    await choose(/User agent/, "phone");
    stub.answers["GET /sites/9/plan"] = {
      body: { ...PLAN, version: 4, values: { ...VALUES, rate_per_s: 2.5, appearance: "phone" } },
    };
    fireEvent.click(screen.getByText("Save plan"));
    expect(await screen.findByText("Saved. The next run uses it.")).toBeTruthy();
    expect(screen.getByLabelText(/Requests per second/)).toHaveProperty("value", "2.5");
    const saved = last("PATCH");
    expect(saved.path).toBe("/sites/9/plan");
    expect(saved.headers.get("If-Match")).toBe('"3"');
    expect(saved.body).toEqual({ values: { ...VALUES, rate_per_s: 2.5, appearance: "phone" } });
  });
  it("keeps what was typed when the service refuses it, and marks the field", async () => {
    const body = { detail: "rate_per_s is 0.", hint: "Give 0.01 to 1000.", field: "rate_per_s" };
    stub.answers["PATCH /sites/9/plan"] = { status: 422, body };
    showPlan(PLAN);
    fireEvent.change(await screen.findByLabelText(/Requests per second/), { target: { value: "0" } });
    fireEvent.click(screen.getByText("Save plan"));
    expect((await screen.findByRole("alert")).textContent).toContain("Requests per second is 0.");
    const field = screen.getByLabelText(/Requests per second/);
    expect(field).toHaveProperty("value", "0");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    const said = field
      .getAttribute("aria-describedby")
      ?.split(" ")
      .map((id) => document.getElementById(id)?.textContent);
    expect(said?.join(" ")).toContain("Give 0.01 to 1000.");
    expect(screen.getByText(/1 setting changed, not saved yet/)).toBeTruthy();
    fireEvent.click(screen.getByText("Put back"));
    expect(screen.getByLabelText(/Requests per second/)).toHaveProperty("value", "5");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });
  it("says large figures in units that people think in, and locks what is not theirs", async () => {
    const [first, ...rest] = SETTINGS;
    const time = { ...first, name: "time_max_s", label: "Time", kind: "number", unit: "seconds" };
    const map = { ...first, name: "host_map", label: "Mapping", kind: "pairs", locked: true };
    stub.answers["GET /plan-settings"] = { body: [...rest, time, map] };
    showPlan({ ...PLAN, values: { ...PLAN.values, time_max_s: 14400, host_map: {} } });
    expect(await screen.findByLabelText(/Time \(4 h 0 min\)/)).toHaveProperty("value", "14400");
    expect(screen.getByLabelText(/Mapping/)).toHaveProperty("disabled", true);
    expect(screen.getByText(/It is locked for you/)).toBeTruthy();
  });
  it("does not let go of changes without asking", async () => {
    showPlan(PLAN, <Link to="/elsewhere">away</Link>);
    fireEvent.change(await screen.findByLabelText(/Requests per second/), { target: { value: "2" } });
    fireEvent.click(screen.getByText("away"));
    expect(await screen.findByText(/1 setting of this plan would be lost: Requests per second/)).toBeTruthy();
    fireEvent.click(screen.getByText("Stay here"));
    expect(screen.getByLabelText(/Requests per second/)).toHaveProperty("value", "2");
    fireEvent.click(screen.getByText("away"));
    fireEvent.click(await screen.findByText("Leave"));
    expect(await screen.findByText("somewhere else")).toBeTruthy();
  });
  it("shows what would be left out before anything is saved", async () => {
    stub.answers["POST /sites/9/plan/preview"] = {
      body: [
        { url: "https://a.example/x", fetched: true, why: "" },
        { url: "https://a.example/y", fetched: false, why: "excluded by the plan: /y" },
      ],
    };
    showPlan(PLAN);
    const samples = await screen.findByLabelText(/Sample URLs/);
    expect(screen.getByText("Try on these addresses")).toHaveProperty("disabled", true);
    fireEvent.change(samples, { target: { value: "/x\n\n/y\n" } });
    fireEvent.click(screen.getByText("Try on these addresses"));
    expect((await screen.findByRole("status")).textContent).toContain("1 of 2 sample addresses would be fetched");
    expect(screen.getByText("excluded by the plan: /y")).toBeTruthy();
    expect(screen.queryByText("/x")).toBeNull();
    fireEvent.click(screen.getByText("show all"));
    expect(screen.getByText("/x")).toBeTruthy();
    expect(stub.sent.some((s) => s.method === "PATCH")).toBe(false);
    expect(last("POST").body).toEqual({ values: VALUES, addresses: ["/x", "/y"] });
  });
  it("takes a list of addresses from a file", async () => {
    showPlan(PLAN);
    const file = new File(["URL,Visits\nhttps://a.example/1,5\nhttps://a.example/2,3\n/contact\n"], "list.csv");
    fireEvent.change(await screen.findByLabelText("Load from file"), { target: { files: [file] } });
    await waitFor(() =>
      expect(screen.getByLabelText(/A list/)).toHaveProperty("value", "https://a.example/1\nhttps://a.example/2"),
    );
    expect(
      screen.getByText("2 URLs loaded. 1 line without a full web address left out (line 4: /contact)."),
    ).toBeTruthy();
  });
  it("says when the explanations cannot be had", async () => {
    stub.answers["GET /plan-settings"] = { status: 503, body: { detail: "The register is busy.", hint: "Try again." } };
    showPlan(PLAN);
    expect((await screen.findByRole("alert")).textContent).toContain("The register is busy.");
  });
});

describe("access", () => {
  it("says that there is none, and sends what was typed once", async () => {
    stub.answers["GET /sites/9/access"] = {
      body: { password: false, headers: [], cookies: [], origins: [], changed_at: null },
    };
    show(<AccessCard />, CONTEXT);
    expect(
      await screen.findByText("Crawled as a visitor sees it: no sign-in, cookies or extra headers are sent."),
    ).toBeTruthy();
    fireEvent.click(screen.getByText("Set access"));
    fireEvent.change(screen.getByLabelText("Name"), { target: { value: "imke" } });
    fireEvent.change(screen.getByLabelText("Site password"), { target: { value: "sesame" } });
    fireEvent.change(screen.getByLabelText(/Request headers/), { target: { value: "X-Preview = yes" } });
    fireEvent.click(screen.getByText("Keep it"));
    await waitFor(() => expect(screen.queryByLabelText("Site password")).toBeNull());
    const kept = last("PUT");
    expect(kept.body).toEqual({ username: "imke", password: "sesame", headers: { "X-Preview": "yes" }, cookies: {} });
  });
  it("names what is kept and never a secret", async () => {
    stub.answers["GET /sites/9/access"] = {
      body: {
        password: true,
        headers: ["X-Preview"],
        cookies: ["door"],
        origins: ["https://shop.example"],
        changed_at: "2026-11-24T02:04:00Z",
      },
    };
    show(<AccessCard />, CONTEXT);
    expect(
      await screen.findByText(/a password, header X-Preview, cookie door. Sent to https:\/\/shop.example alone/),
    ).toBeTruthy();
    fireEvent.click(screen.getByText("forget"));
    await waitFor(() =>
      expect(stub.sent.some((s) => s.method === "DELETE" && s.path === "/sites/9/access")).toBe(true),
    );
  });
});

describe("sharing a plan", () => {
  it("offers every other site", async () => {
    show(<ShareCard />, CONTEXT);
    await waitFor(() => expect(stub.sent.some((s) => s.path === "/sites")).toBe(true));
    await choose(/From another site/, "b.example");
    expect(screen.queryByRole("option", { name: "a.example" })).toBeNull();
    fireEvent.click(screen.getByText("Copy plan"));
    expect(await screen.findByText(/Done/)).toBeTruthy();
    expect(last("POST").body).toEqual({ from_site: 4 });
  });
  it("shows what is wrong with a text and takes the next one", async () => {
    stub.answers["GET /sites/9/plan/toml"] = { body: { toml: "rate_per_s = 2.0\n" } };
    stub.answers["PUT /sites/9/plan/toml"] = {
      status: 422,
      body: { detail: "That is not TOML.", hint: "Correct that line." },
    };
    show(<ShareCard />, CONTEXT);
    fireEvent.click(await screen.findByText("As text (TOML)"));
    const text = await screen.findByLabelText(/The plan as TOML/);
    expect(text).toHaveProperty("value", "rate_per_s = 2.0\n");
    fireEvent.click(screen.getByText("Replace the plan"));
    expect((await screen.findByRole("alert")).textContent).toContain("That is not TOML.");
    stub.answers["PUT /sites/9/plan/toml"] = { body: PLAN };
    fireEvent.click(screen.getByText("Replace the plan"));
    expect(await screen.findByText(/Done/)).toBeTruthy();
    expect(screen.queryByRole("alert")).toBeNull();
    expect(last("PUT").body).toEqual({ toml: "rate_per_s = 2.0\n" });
  });
});
