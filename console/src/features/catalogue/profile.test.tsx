import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Link } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import { choose, service, show } from "../../testing";
import { ProfileScreen } from "./profile";
import { inBrief, ProfilesScreen } from "./profiles";

const CHECK = { area: "text", area_name: "Texts", severity: "medium", subject: "page", why: "", fix: "", effort: "small", standard: "", examples: 1, messages: {}, revision: 1, since: "", names: [], retired: null, terms: [], applies_to: "" }; // prettier-ignore
const CHECKS = [
  { ...CHECK, id: "text-thin", summary: "Thin content", limits: { words_min: { default: 200, unit: "words", meaning: "fewest words" } } },
  { ...CHECK, id: "text-filler", summary: "Filler text", limits: {} },
  { ...CHECK, id: "link-broken", summary: "Broken links", area: "links", area_name: "Links", limits: {} },
]; // prettier-ignore
const SHOP = {
  id: 3,
  name: "Shop",
  note: "",
  checks_off: ["link-broken"],
  thresholds: {},
  severities: {},
  version: 5,
  changed_at: "2026-11-27T10:00:00Z",
  sites: [{ id: 1, host: "a.example", client_name: "A" }],
};

const stub = service();
beforeEach(() => {
  stub.answers["GET /profiles"] = { body: [SHOP] };
  stub.answers["GET /catalogue"] = { body: CHECKS };
});
const open = (at = "/catalogue/profiles/3") =>
  show(
    [
      { path: "/catalogue/profiles", element: <ProfilesScreen /> },
      { path: "/catalogue/profiles/:profileId", element: <><ProfileScreen /><Link to="/elsewhere">away</Link></> },
      { path: "/elsewhere", element: <p>somewhere else</p> },
    ],
    { at },
  ); // prettier-ignore
const sent = (method: string) => stub.sent.filter((s) => s.method === method).at(-1);

describe("a profile that two people edit", () => {
  it("keeps one's own changes, takes the others, and says what they were", async () => {
    open();
    fireEvent.change(await screen.findByLabelText("Search checks"), { target: { value: "text" } });
    fireEvent.change(await screen.findByLabelText(/fewest words/), { target: { value: "80" } });
    stub.answers["PATCH /profiles/3"] = {
      status: 409,
      body: { detail: "Somebody changed this profile.", hint: "Look." },
    };
    const theirs = { ...SHOP, version: 6, thresholds: { words_min: 90 }, checks_off: ["link-broken", "text-filler"] };
    stub.answers["GET /profiles"] = { body: [theirs] };
    fireEvent.click(screen.getByText("Save profile"));
    const told = (await screen.findByText(/Somebody has changed this profile since you began/)).parentElement;
    expect(told?.textContent).toContain("Filler text from on to off");
    expect(told?.textContent).toContain("words_min from the default to 90; saving replaces it with yours");
    fireEvent.click(screen.getByText("Save profile"));
    await waitFor(() => expect(sent("PATCH")?.headers.get("If-Match")).toBe('"6"'));
    expect(sent("PATCH")?.body).toMatchObject({
      checks_off: ["link-broken", "text-filler"],
      thresholds: { words_min: 80 },
    });
  });
});

describe("a profile", () => {
  it("is edited area by area, and sent whole with the version it was loaded in", async () => {
    open();
    expect(await screen.findByText(/0 of 1 check on · 1 changed/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Search checks"), { target: { value: "thin" } });
    fireEvent.change(await screen.findByLabelText(/fewest words/), { target: { value: "80" } });
    await choose("Severity of text-thin", "low");
    const save = screen.getByText("Save profile");
    expect(screen.getByText(/Say why text-thin has another severity/)).toBeTruthy();
    expect(save).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("Reason for the severity of text-thin"), {
      target: { value: "Short here" },
    });
    expect(screen.getByText(/2 changes not saved yet/)).toBeTruthy();
    fireEvent.click(save);
    await waitFor(() => expect(sent("PATCH")).toBeTruthy());
    expect(sent("PATCH")?.path).toBe("/profiles/3");
    expect(sent("PATCH")?.headers.get("If-Match")).toBe('"5"');
    expect(sent("PATCH")?.body).toEqual({
      name: "Shop",
      note: "",
      checks_off: ["link-broken"],
      thresholds: { words_min: 80 },
      severities: { "text-thin": { severity: "low", reason: "Short here" } },
    });
  });
  it("switches an area off and on as a whole", async () => {
    open();
    fireEvent.change(await screen.findByLabelText("Search checks"), { target: { value: "text-" } });
    fireEvent.click(await screen.findByText("Switch all off"));
    expect(screen.getByText("3 checks off")).toBeTruthy();
    fireEvent.click(screen.getByText("Switch all on"));
    expect(screen.getByText("1 check off")).toBeTruthy();
    expect(screen.queryByText(/not saved yet/)).toBeNull();
  });
  it("takes no limit that is no figure", async () => {
    open();
    fireEvent.change(await screen.findByLabelText("Search checks"), { target: { value: "thin" } });
    fireEvent.change(await screen.findByLabelText(/fewest words/), { target: { value: "few" } });
    expect(screen.getByText(/“few” is no figure; words_min needs one/)).toBeTruthy();
    expect(screen.getByText("Save profile")).toHaveProperty("disabled", true);
    fireEvent.click(screen.getByText("Put back"));
    expect(screen.queryByText(/is no figure/)).toBeNull();
  });
  it("is not left without asking", async () => {
    open();
    fireEvent.change(await screen.findByLabelText("Name"), { target: { value: "Stores" } });
    fireEvent.click(screen.getByText("away"));
    expect(await screen.findByText("1 change of this profile would be lost.")).toBeTruthy();
    fireEvent.click(screen.getByText("Leave"));
    expect(await screen.findByText("somewhere else")).toBeTruthy();
  });
  it("says why it cannot be removed", async () => {
    const body = { detail: "Shop is used by a.example.", hint: "Choose another profile.", field: "" };
    stub.answers["DELETE /profiles/3"] = { status: 409, body };
    open();
    fireEvent.click(await screen.findByText("Remove profile"));
    const buttons = await screen.findAllByRole("button", { name: "Remove profile" });
    fireEvent.click(buttons.at(-1) as HTMLElement);
    expect((await screen.findByRole("alert")).textContent).toContain("Shop is used by a.example.");
  });
  it("is told when it is there no more", async () => {
    open("/catalogue/profiles/9");
    expect(await screen.findByText(/There is no such profile/)).toBeTruthy();
  });
});

describe("the list of profiles", () => {
  it("says what each changes and who uses it, and leads on after one is added", async () => {
    stub.answers["POST /profiles"] = { status: 201, body: { ...SHOP, id: 3 } };
    const router = open("/catalogue/profiles");
    expect(await screen.findByText("1 check off")).toBeTruthy();
    expect(screen.getByText("a.example").getAttribute("href")).toBe("/sites/1/plan");
    fireEvent.click(screen.getByText("Add profile"));
    fireEvent.change(await screen.findByLabelText(/Name/), { target: { value: "Shop" } });
    fireEvent.click(screen.getAllByRole("button", { name: "Add profile", hidden: true }).at(-1) as HTMLElement);
    await waitFor(() => expect(router.state.location.pathname).toBe("/catalogue/profiles/3"));
  });
  it("counts what a profile changes", () => {
    const low = { severity: "low" as const, reason: "r" };
    expect(inBrief({ checks_off: [], thresholds: {}, severities: {} })).toBe("nothing yet");
    expect(inBrief({ checks_off: ["a", "b"], thresholds: { c: 1 }, severities: { a: low, b: low } })).toBe(
      "2 checks off, 1 limit, 2 severities",
    );
  });
});
