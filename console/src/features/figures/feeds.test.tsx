import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { FigureFeed, Site } from "../../api/types";
import { choose, ME, service, show } from "../../testing";
import { FromOutside } from "../site/page/outside";
import { Domain, Feeds } from "./feeds";
import { Visits } from "./visits";

const stub = service();
const SITE = { id: 9, host: "a.example", kind: "own" } as Site;
const MAY = { ...ME, may: [...ME.may, "add_figure_feed", "change_figure_feed", "list_figure_feeds"] };
const FEED: FigureFeed = {
  id: 4,
  site_id: 9,
  site_host: "a.example",
  name: "Figures",
  url: "https://figures.example/a",
  has_token: true,
  kinds: [],
  active: true,
  state: "stale",
  sentence: "Nothing newer than 20 November 2026, 12 days ago.",
  next_at: "2026-12-03T06:00:00Z",
  offers: [
    {
      kind: "search",
      first: "2026-01-01",
      last: "2026-11-20",
      until: "2026-11-20",
      rows: 1200,
      wanted: true,
      stale: true,
    },
  ],
};
const asked = (more: string) => `GET /sites/9/visits?by=page&${more}&text=&sort=&limit=100&after=0`;
const sent = (method: string) => stub.sent.filter((each) => each.method === method);

function open(feeds: FigureFeed[]) {
  Object.assign(stub.answers, {
    "GET /session": { body: MAY },
    "GET /figure-feeds?site_id=9": { body: feeds },
    "POST /sites/9/figure-feeds": { body: FEED },
    "PATCH /figure-feeds/4": { body: { ...FEED, active: false } },
    "POST /figure-feeds/4/pull": { body: FEED },
    "DELETE /figure-feeds/4": { status: 204, body: null },
  });
  show(<Feeds site={SITE} />);
}

test("a feed says how it fares, and is asked, switched off and removed", async () => {
  open([FEED]);
  expect(await screen.findByText(FEED.sentence)).toBeTruthy();
  expect(screen.getByText("1,200")).toBeTruthy();
  fireEvent.click(await screen.findByRole("button", { name: "ask now" }));
  await waitFor(() => expect(sent("POST").map((each) => each.path)).toEqual(["/figure-feeds/4/pull"]));
  fireEvent.click(screen.getByRole("button", { name: "switch off" }));
  await waitFor(() => expect(sent("PATCH").map((each) => each.body)).toEqual([{ active: false }]));
  fireEvent.click(screen.getByRole("button", { name: "remove" }));
  await waitFor(() => expect(sent("DELETE")).toHaveLength(1));
});

test("a feed is added with its token", async () => {
  open([]);
  expect(await screen.findByText(/No feeds\. A feed is an address/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Add a feed…" }));
  fireEvent.change(await screen.findByLabelText("Address"), { target: { value: FEED.url } });
  fireEvent.change(screen.getByLabelText("Token"), { target: { value: " secret " } });
  fireEvent.click(screen.getByRole("button", { name: "Add feed" }));
  await waitFor(() =>
    expect(sent("POST").map((each) => each.body)).toEqual([{ url: FEED.url, name: "", token: "secret", kinds: [] }]),
  );
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
});

test("an address that is refused is said at its field", async () => {
  open([]);
  stub.answers["POST /sites/9/figure-feeds"] = {
    status: 422,
    body: { title: "Invalid input", detail: "It is no https address.", hint: "Give another.", field: "url" },
  };
  fireEvent.click(await screen.findByRole("button", { name: "Add a feed…" }));
  fireEvent.change(await screen.findByLabelText("Address"), { target: { value: "http://a.example" } });
  fireEvent.click(screen.getByRole("button", { name: "Add feed" }));
  expect(await screen.findByText("It is no https address. Give another.")).toBeTruthy();
});

test("a domain shows what its registry said, and why it could not be asked", async () => {
  const now = {
    domain: "a.example",
    registrar: "Anchor",
    expires: "2026-12-26",
    first_seen: "2026-12-01",
    last_seen: "2026-12-02",
  };
  stub.answers["GET /sites/9/domain"] = {
    body: { sentence: "a.example is registered.", now, before: [], error: "It answered 503." },
  };
  show(<Domain site={SITE} />);
  expect(await screen.findByText("a.example is registered.")).toBeTruthy();
  expect(screen.getByText("The registry could not be asked last: It answered 503.")).toBeTruthy();
  expect(screen.getByText("Anchor")).toBeTruthy();
});

const SUMS = { sessions: 40, engaged: null, conversions: 1.5 };
const ROW = { text: "https://a.example/rope", now: SUMS, before: { ...SUMS, sessions: 90 }, movement: "fell" };
const FOUND = {
  by: "page",
  first: "2026-11-02",
  last: "2026-11-29",
  before_first: "2026-10-05",
  before_last: "2026-11-01",
  now: SUMS,
  before: SUMS,
  counts: { all: 1, rising: 0, "at-risk": 1 },
  items: [ROW],
  total: 1,
  channels: ["search"],
  test: "a test",
};

test("visits are shown by page or channel, and narrowed to what falls", async () => {
  for (const more of [
    "view=all&weeks=4&channel=",
    "view=at-risk&weeks=4&channel=",
    "view=at-risk&weeks=4&channel=search",
  ])
    stub.answers[asked(more)] = { body: FOUND };
  show(<Visits site={SITE} />);
  expect((await screen.findByRole("link", { name: "/rope" })).getAttribute("href")).toContain(
    "/sites/9/page?url=https",
  );
  expect(screen.getByText("▼ fell")).toBeTruthy();
  expect(screen.getByText("−50")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "At risk 1" }));
  expect(await screen.findByText("Told by a test.")).toBeTruthy();
  await choose("Channel", "search");
  await waitFor(() => expect(stub.sent.at(-1)?.path).toContain("view=at-risk&weeks=4&channel=search"));
  expect(screen.queryByText("Engaged")).toBeNull();
});

test("without visits it says where they come from", async () => {
  stub.answers[asked("view=all&weeks=4&channel=")] = { body: { by: "page" } };
  show(<Visits site={SITE} />);
  expect(await screen.findByText("No visits yet")).toBeTruthy();
});

test("a page shows what is known of it from outside, and nothing where the site has no figures", async () => {
  const page = {
    sentence: "12 clicks from search in the four weeks to 29 November 2026.",
    search: { text: ROW.text, now: { clicks: 12 }, before: { clicks: 10 } },
    queries: [{ text: "rope", now: { clicks: 12, impressions: 90, position: 4.25 }, before: { clicks: 10 } }],
    keywords: [{ keyword: "rope", device: "phone", place: "", day: "2026-11-29", rank: 4 }],
  };
  stub.answers[`GET /sites/9/page-figures?url=${encodeURIComponent(ROW.text)}`] = { body: page };
  show(<FromOutside site={SITE} url={ROW.text} />);
  expect(await screen.findByText(page.sentence)).toBeTruthy();
  expect(screen.getByText("phone, Sun 29 Nov")).toBeTruthy();
  stub.answers[`GET /sites/9/page-figures?url=${encodeURIComponent("https://a.example/other")}`] = {
    body: { sentence: "There are no figures." },
  };
  show(<FromOutside site={SITE} url="https://a.example/other" />);
  await waitFor(() => expect(stub.sent.at(-1)?.path).toContain("other"));
  expect(screen.queryByText("There are no figures.")).toBeNull();
});
