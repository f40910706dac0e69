import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, type MockInstance, vi } from "vitest";
import { KEYS } from "./queries/keys";
import { AT_MOST_EVERY_MS, useWatch } from "./watch";

class Source extends EventTarget {
  static CLOSED = 2;
  static all: Source[] = [];
  readyState = 1;
  constructor(public url: string) {
    super();
    Source.all.push(this);
  }
  close() {
    this.readyState = 2;
  }
  tell(...nouns: string[]) {
    this.dispatchEvent(new MessageEvent("changes", { data: JSON.stringify({ nouns }) }));
  }
}

let cache: QueryClient;
let asked: MockInstance<QueryClient["invalidateQueries"]>;
const read = () => asked.mock.calls.map(([filter]) => filter?.queryKey?.[0] ?? "all");
const Listener = ({ wanted = true }) => {
  useWatch(wanted);
  return null;
};
const show = (wanted = true) =>
  render(
    <QueryClientProvider client={cache}>
      <Listener wanted={wanted} />
    </QueryClientProvider>,
  );
const look = (state: DocumentVisibilityState) => {
  vi.spyOn(document, "visibilityState", "get").mockReturnValue(state);
  act(() => void document.dispatchEvent(new Event("visibilitychange")));
};

beforeEach(() => {
  vi.useFakeTimers();
  Source.all = [];
  vi.stubGlobal("EventSource", Source);
  cache = new QueryClient();
  asked = vi.spyOn(cache, "invalidateQueries").mockResolvedValue();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

test("what shows a noun is read again, each once, and no more often than every two seconds", () => {
  show();
  Source.all[0]?.tell("alerts");
  vi.advanceTimersByTime(1);
  expect(read()).toEqual([KEYS.desk[0]]);
  Source.all[0]?.tell("waivers");
  Source.all[0]?.tell("waivers", "reports");
  vi.advanceTimersByTime(AT_MOST_EVERY_MS - 10);
  expect(read()).toHaveLength(1);
  vi.advanceTimersByTime(10);
  expect(read()).toEqual(["desk", "waivers", "desk", "reports"]);
});

test("a hidden window listens to nothing, and is brought up to date when it is looked at again", () => {
  show();
  look("hidden");
  expect(Source.all[0]?.readyState).toBe(2);
  look("visible");
  expect(Source.all).toHaveLength(2);
  expect(read()).toEqual(["all"]);
});

test("what was refused is tried again later, what broke off by the browser itself", () => {
  show();
  Source.all[0]?.dispatchEvent(new Event("error"));
  expect(read()).toEqual(["all"]);
  Source.all[0]?.dispatchEvent(new Event("error"));
  expect(read()).toEqual(["all"]);
  vi.advanceTimersByTime(60_000);
  expect(Source.all).toHaveLength(1);
  Source.all[0]?.close();
  Source.all[0]?.dispatchEvent(new Event("error"));
  vi.advanceTimersByTime(60_000);
  expect(Source.all).toHaveLength(2);
});

test("who may not listen does not, and who leaves stops", () => {
  show(false);
  expect(Source.all).toHaveLength(0);
  show().unmount();
  expect(Source.all[0]?.readyState).toBe(2);
});
