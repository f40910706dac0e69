import { afterEach, describe, expect, it, vi } from "vitest";
import { call, get, ProblemError, query } from "./client";

afterEach(() => vi.unstubAllGlobals());

function answers(status: number, body: unknown) {
  const asked = vi.fn(async () => new Response(status === 204 ? null : JSON.stringify(body), { status }));
  vi.stubGlobal("fetch", asked);
  return asked;
}

describe("calls", () => {
  it("read JSON below the interface's path", async () => {
    const asked = answers(200, { id: 1 });
    expect(await get("/sites/1")).toEqual({ id: 1 });
    expect(asked).toHaveBeenCalledWith("/api/v1/sites/1", expect.objectContaining({ method: "GET", body: undefined }));
  });
  it("send the version they change", async () => {
    const asked = answers(200, {});
    await call("PATCH", "/sites/1/plan", { values: {} }, 7);
    const [, options] = asked.mock.calls[0] as unknown as [string, { headers: Record<string, string> }];
    expect(options.headers).toEqual({ "Content-Type": "application/json", "If-Match": '"7"' });
  });
  it("give nothing for an answer without a body", async () => {
    answers(204, null);
    expect(await call("DELETE", "/tokens/1")).toBeUndefined();
  });
  it("raise what the service says is wrong and what to do", async () => {
    answers(422, { detail: "rate_per_s is 0.", hint: "Give 0.01 to 1000." });
    await expect(get("/x")).rejects.toMatchObject({
      status: 422,
      detail: "rate_per_s is 0.",
      hint: "Give 0.01 to 1000.",
    });
  });
  it("raise something readable for an answer that is no problem document", async () => {
    vi.stubGlobal("fetch", async () => new Response("<h1>Bad gateway</h1>", { status: 502 }));
    await expect(get("/x")).rejects.toMatchObject({ status: 502, detail: "The service answered 502." });
  });
  it("tell a service that does not answer from one that refuses", async () => {
    vi.stubGlobal("fetch", async () => Promise.reject(new TypeError("failed")));
    const error = await get("/x").catch((e: unknown) => e);
    expect(error).toBeInstanceOf(ProblemError);
    expect(error).toMatchObject({ status: 0, hint: "Check the connection, then try again." });
  });
});

describe("queries", () => {
  it.each([
    [{}, ""],
    [{ a: 1, b: "", c: null, d: undefined, e: false }, "?a=1&e=false"],
    [{ q: "a b&c" }, "?q=a+b%26c"],
  ])("%o become %s", (values, text) => expect(query(values)).toBe(text));
});
