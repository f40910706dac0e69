import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { service, show } from "../../testing";
import { SignIn } from "./sign-in";

const stub = service();

function signIn(path: string, answer: { status: number; body: unknown }) {
  stub.answers["POST /session"] = answer;
  const router = show(
    [
      { path: "/sign-in", element: <SignIn /> },
      { path: "*", element: <p>arrived</p> },
    ],
    { at: path },
  );
  fireEvent.change(screen.getByLabelText("Email"), { target: { value: "imke@agency.example" } });
  fireEvent.change(screen.getByLabelText("Password"), { target: { value: "sesame" } });
  fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
  return router;
}

describe("signing in", () => {
  it("sends what was typed and goes to the desk", async () => {
    const router = signIn("/sign-in", { status: 200, body: {} });
    expect(await screen.findByText("arrived")).toBeTruthy();
    expect(router.state.location.pathname).toBe("/");
    const sent = stub.sent.find((s) => s.method === "POST");
    expect(sent?.path).toBe("/session");
    expect(sent?.body).toEqual({ email: "imke@agency.example", password: "sesame", code: "" });
  });
  it("asks for a code where an account wants one", async () => {
    signIn("/sign-in", { status: 401, body: { detail: "Two steps.", hint: "Type the code.", field: "code" } });
    fireEvent.change(await screen.findByLabelText("Code"), { target: { value: "123456" } });
    expect(screen.queryByText(/Two steps/)).toBeNull();
    stub.answers["POST /session"] = { status: 200, body: {} };
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByText("arrived")).toBeTruthy();
    expect(stub.sent.filter((s) => s.method === "POST").at(-1)?.body).toMatchObject({ code: "123456" });
  });
  it("goes back to the page that was asked for", async () => {
    const router = signIn("/sign-in?back=%2Fsites%2F4%2Ftrend", { status: 200, body: {} });
    await waitFor(() => expect(router.state.location.pathname).toBe("/sites/4/trend"));
  });
  it("never leads to another site", async () => {
    const router = signIn("/sign-in?back=https%3A%2F%2Fevil.example%2F", { status: 200, body: {} });
    await screen.findByText("arrived");
    expect(router.state.location.pathname).toBe("/");
  });
  it("says what was wrong and keeps what was typed", async () => {
    signIn("/sign-in", { status: 401, body: { detail: "They do not belong together.", hint: "Try again." } });
    expect((await screen.findByRole("alert")).textContent).toContain("They do not belong together.");
    expect(screen.getByLabelText("Email")).toHaveProperty("value", "imke@agency.example");
  });
  it("names the field that is missing", async () => {
    show([{ path: "/", element: <SignIn /> }]);
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByText("Password is needed.")).toBeTruthy();
    expect(screen.getByLabelText("Password").getAttribute("aria-invalid")).toBe("true");
    expect(stub.sent.filter((s) => s.method === "POST")).toEqual([]);
  });
});
