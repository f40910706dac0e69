import { afterEach, describe, expect, it, vi } from "vitest";
import { ifMatch, ProblemError, service } from "./service";

afterEach(() => vi.unstubAllGlobals());

const JSON_TYPE = { "Content-Type": "application/json" };

function answers(status: number, body: unknown) {
  const asked = vi.fn<(request: Request) => Promise<Response>>(() =>
    Promise.resolve(new Response(status === 204 ? null : JSON.stringify(body), { status, headers: JSON_TYPE })),
  );
  vi.stubGlobal("fetch", asked);
  return asked;
}
const members = () => service.GET("/api/v1/members");

describe("calls", () => {
  it("put parameters where the operation has them", async () => {
    const asked = answers(200, { id: 1 });
    const params = { path: { run_id: "r1" }, query: { check: "link-broken", cause: undefined, limit: 5 } };
    expect(await service.GET("/api/v1/runs/{run_id}/findings", { params })).toEqual({ id: 1 });
    const [request] = asked.mock.calls[0] ?? [];
    expect(request?.method).toBe("GET");
    expect(new URL(request?.url ?? "").pathname).toBe("/api/v1/runs/r1/findings");
    expect(new URL(request?.url ?? "").search).toBe("?check=link-broken&limit=5");
  });
  it("send the version they change", async () => {
    const asked = answers(200, {});
    const params = { path: { site_id: 1 }, header: ifMatch(7) };
    await service.PATCH("/api/v1/sites/{site_id}/plan", { params, body: { values: { rate_per_s: 2 } } });
    const [request] = asked.mock.calls[0] ?? [];
    expect(request?.headers.get("If-Match")).toBe('"7"');
    expect(await request?.json()).toEqual({ values: { rate_per_s: 2 } });
  });
  it("give nothing for an answer without a body", async () => {
    answers(204, null);
    expect(await service.DELETE("/api/v1/tokens/{token_id}", { params: { path: { token_id: 1 } } })).toBeUndefined();
  });
  it("raise what the service says is wrong and what to do", async () => {
    answers(422, { detail: "rate_per_s is 0.", hint: "Give 0.01 to 1000.", field: "rate_per_s" });
    await expect(members()).rejects.toMatchObject({
      status: 422,
      detail: "rate_per_s is 0.",
      hint: "Give 0.01 to 1000.",
      field: "rate_per_s",
    });
  });
  it("raise something readable for an answer that is no problem document", async () => {
    vi.stubGlobal("fetch", () => Promise.resolve(new Response("<h1>Bad gateway</h1>", { status: 502 })));
    await expect(members()).rejects.toMatchObject({ status: 502, detail: "The service answered 502." });
  });
  it("tell a service that does not answer from one that refuses", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("failed")));
    const error: unknown = await members().catch((e: unknown) => e);
    expect(error).toBeInstanceOf(ProblemError);
    expect(error).toMatchObject({ status: 0, hint: "Check the connection, then try again." });
  });
});

/** Each line is an error to the compiler; one that stopped being so would be one itself. */
export const mistakes = [
  // @ts-expect-error a path that the service does not have
  () => service.GET("/api/v1/site/{site_id}", { params: { path: { site_id: 1 } } }),
  // @ts-expect-error a path parameter that is missing
  () => service.GET("/api/v1/sites/{site_id}"),
  // @ts-expect-error a parameter that is called otherwise
  () => service.GET("/api/v1/sites/{site_id}", { params: { path: { id: 1 } } }),
  // @ts-expect-error a method that the path does not have
  () => service.PUT("/api/v1/members"),
  // @ts-expect-error a body without what it needs
  () => service.POST("/api/v1/tokens", { body: {} }),
  // @ts-expect-error a value out of a closed set
  () => service.GET("/api/v1/sites", { params: { query: { kind: "rival" } } }),
  // @ts-expect-error a field that the result does not have
  async () => void (await members())[0]?.nickname,
];
