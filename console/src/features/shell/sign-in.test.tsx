import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { SignIn } from "./sign-in";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function show(path: string, answer: { status: number; body: unknown }) {
  const asked = vi.fn(async () => new Response(JSON.stringify(answer.body), { status: answer.status }));
  vi.stubGlobal("fetch", asked);
  const router = createMemoryRouter(
    [
      { path: "/sign-in", element: <SignIn /> },
      { path: "*", element: <p>arrived</p> },
    ],
    { initialEntries: [path] },
  );
  render(
    <QueryClientProvider client={new QueryClient()}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  fireEvent.change(screen.getByLabelText("E-mail address"), { target: { value: "imke@agency.example" } });
  fireEvent.change(screen.getByLabelText("Password"), { target: { value: "sesame" } });
  fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
  return { asked, router };
}

describe("signing in", () => {
  it("sends what was typed and goes to the desk", async () => {
    const { asked, router } = show("/sign-in", { status: 200, body: {} });
    expect(await screen.findByText("arrived")).toBeTruthy();
    expect(router.state.location.pathname).toBe("/");
    const [path, options] = asked.mock.calls[0] as unknown as [string, RequestInit];
    expect(path).toBe("/api/v1/session");
    expect(JSON.parse(String(options.body))).toEqual({ email: "imke@agency.example", password: "sesame" });
  });
  it("goes back to the page that was asked for", async () => {
    const { router } = show("/sign-in?back=%2Fsites%2F4%2Ftrend", { status: 200, body: {} });
    await waitFor(() => expect(router.state.location.pathname).toBe("/sites/4/trend"));
  });
  it("never leads to another site", async () => {
    const { router } = show("/sign-in?back=https%3A%2F%2Fevil.example%2F", { status: 200, body: {} });
    await screen.findByText("arrived");
    expect(router.state.location.pathname).toBe("/");
  });
  it("says what was wrong and keeps what was typed", async () => {
    show("/sign-in", { status: 401, body: { detail: "They do not belong together.", hint: "Try again." } });
    expect((await screen.findByRole("alert")).textContent).toContain("They do not belong together.");
    expect(screen.getByLabelText("E-mail address")).toHaveProperty("value", "imke@agency.example");
  });
});
