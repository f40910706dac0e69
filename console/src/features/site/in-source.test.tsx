import { fireEvent, screen } from "@testing-library/react";
import { expect, it } from "vitest";
import { service, show } from "../../testing";
import { InSource } from "./in-source";

const stub = service();
const answer = (source: object | null) => {
  stub.answers["GET /runs/r1/findings/ab12"] = { body: { fingerprint: "ab12", source } };
};

it("is read when somebody wants to see it, before and after", async () => {
  const source = { document: "page", line: 1204, column: 7, selector: "img", before: "<img>", after: '<img alt="">' };
  answer(source);
  show(<InSource runId="r1" fingerprint="ab12" />);
  fireEvent.click(await screen.findByText("Show source"));
  expect(await screen.findByText(/Line 1,204, column 7/)).toBeTruthy();
  expect(screen.getByText("before").nextSibling?.textContent).toBe("<img>");
  expect(screen.getByText("after").nextSibling?.textContent).toBe('<img alt="">');
  fireEvent.click(screen.getByText("Hide source"));
  expect(screen.queryByText("before")).toBeNull();
});
it("says what to add where something is missing", async () => {
  answer({
    document: "headers",
    line: 0,
    column: 0,
    selector: "",
    before: "",
    after: "X-Content-Type-Options: nosniff",
  });
  show(<InSource runId="r1" fingerprint="ab12" open />);
  expect((await screen.findByText("add")).nextSibling?.textContent).toBe("X-Content-Type-Options: nosniff");
  expect(screen.queryByText(/Line/)).toBeNull();
});
it("says so when there is no place", async () => {
  answer(null);
  show(<InSource runId="r1" fingerprint="ab12" />);
  fireEvent.click(await screen.findByText("Show source"));
  expect(await screen.findByText(/about the whole page/)).toBeTruthy();
});
it("names the file when it is not the page", async () => {
  answer({ document: "robots.txt", line: 3, column: 1, selector: "", before: "Disallow: /shop", after: "" });
  show(<InSource runId="r1" fingerprint="ab12" open />);
  expect(await screen.findByText("Line 3 of robots.txt")).toBeTruthy();
});
