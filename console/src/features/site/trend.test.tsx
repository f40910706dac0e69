import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Trend } from "../../api/types";
import { choose, ME, service, show } from "../../testing";
import { SiteTrends } from "../clients/site-trends";
import { shownValue, spanOf } from "./time-chart";
import { TrendScreen } from "./trend";

const stub = service();
const SITE = { id: 9, host: "a.example", kind: "own" };

const trendOf = (figure: string, label: string, values: (number | null)[], more: Partial<Trend> = {}): Trend => ({
  figure,
  label,
  high_is_good: true,
  every: "week",
  points: values.map((value, n) => ({
    run_id: "",
    at: `2026-11-${String(2 + 7 * n).padStart(2, "0")}T00:00:00Z`,
    first: `2026-11-0${n + 1}`,
    last: `2026-11-0${n + 2}`,
    value,
    partial: false,
    changed: false,
    catalogue_changed: false,
    comparable: true,
    note: value === null ? "no figures" : "",
  })),
  remarks: [],
  state: "steady",
  slope_per_month: 0,
  change: 0,
  words: `${label}: steady.`,
  between: `${label}: no change between then and now.`,
  ...more,
});
const HEALTH = trendOf("health", "Health, 0 to 100", [88, 87.5]);
const CLICKS = trendOf("search.clicks", "Clicks from search", [120, null, 118]);
const asked = (figure: string, every = "run", site = 9) => `GET /sites/${site}/trend?figure=${figure}&every=${every}`;

function open(at = "/") {
  Object.assign(stub.answers, {
    "GET /session": { body: { ...ME, may: [...ME.may, "list_trend_figures"] } },
    "GET /catalogue": { body: [] },
    "GET /sites/9/trend-figures": { body: [{ figure: "search.clicks", label: "Clicks from search" }] },
    [asked("health")]: { body: HEALTH },
    [asked("search.clicks")]: { body: CLICKS },
    [asked("health", "month")]: { body: HEALTH },
    [asked("search.clicks", "month")]: { body: CLICKS },
  });
  return show(<TrendScreen />, { at, context: { site: SITE } });
}

test("another figure is shown beside the first, and taken away again", async () => {
  open();
  expect(await screen.findByText("Health, 0 to 100: steady.")).toBeTruthy();
  await choose("Beside it", "Clicks from search");
  expect(await screen.findByText("Clicks from search: steady.")).toBeTruthy();
  expect(screen.getByText("Clicks from search: no change between then and now.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Take Clicks from search away" }));
  await waitFor(() => expect(screen.queryByText("Clicks from search: steady.")).toBeNull());
});

test("points are chosen for all figures at once", async () => {
  const router = open("/?also=search.clicks");
  expect(await screen.findByText("Clicks from search: steady.")).toBeTruthy();
  fireEvent.click(screen.getByText("Months"));
  await waitFor(() => expect(stub.sent.some((each) => each.path.includes("search.clicks&every=month"))).toBe(true));
  expect(stub.sent.some((each) => each.path.includes("health&every=month"))).toBe(true);
  expect(router.state.location.search).toBe("?also=search.clicks&every=month");
});

test("what is not known is no zero", () => {
  expect(shownValue(CLICKS, null)).toBe("–");
  expect([shownValue(CLICKS, 1200), shownValue(CLICKS, 2.25), shownValue(HEALTH, 88)]).toEqual([
    "1,200",
    "2.3",
    "88.0",
  ]);
  const [begin, end] = spanOf([HEALTH, CLICKS]);
  expect(new Date(begin).getUTCDate()).toBe(2);
  expect(new Date(end).getUTCDate()).toBe(16);
});

test("sites of a client stand side by side", async () => {
  Object.assign(stub.answers, {
    [asked("health", "week", 1)]: { body: HEALTH },
    [asked("health", "week", 2)]: { body: trendOf("health", "Health, 0 to 100", []) },
    [asked("search.clicks", "week", 1)]: { body: CLICKS },
    [asked("search.clicks", "week", 2)]: { body: trendOf("search.clicks", "Clicks from search", []) },
  });
  const sites = [
    { id: 1, host: "a.example" },
    { id: 2, host: "b.example" },
  ];
  show(<SiteTrends sites={sites} />);
  expect(await screen.findByText("87.5, steady")).toBeTruthy();
  expect(screen.getByText("Nothing is known of it yet.")).toBeTruthy();
  await choose("Figure", "Clicks from search");
  expect(await screen.findByText("118, steady")).toBeTruthy();
});
