import { expect, test } from "vitest";
import { asked, noCauses } from "./asked";

const figures = { examined: 120, failing: 31, passed: 89, not_applicable: 1 };

test("says of how many pages a check was asked, and how they fared", () => {
  expect(asked({ subject: "page", ...figures })).toBe(
    "Examined on 120 pages: 31 fail, 89 pass; does not apply to 1 page",
  );
  expect(asked({ subject: "file", examined: 1, failing: 0, passed: 1, not_applicable: 0 })).toBe(
    "Examined on 1 file: 0 fail, 1 pass",
  );
});

test("never says that a check passed that had nothing to look at", () => {
  const words = asked({ subject: "page", examined: 0, failing: 0, passed: 0, not_applicable: 40 });
  expect(words).toBe("Examined on no page; does not apply to 40 pages");
  expect(words).not.toMatch(/pass/);
});

test("is silent of runs that do not say, and of the site as a whole", () => {
  expect(asked({ subject: "page", examined: null, failing: null, passed: null, not_applicable: null })).toBe("");
  expect(asked({ subject: "site", ...figures })).toBe("");
});

test("only a check that was examined is said to pass", () => {
  expect(noCauses("passed", 0)).toBe("This check passes wherever it could be examined.");
  expect(noCauses("waived", 1)).toBe(
    "1 finding is waived; apart from that, this check passes wherever it could be examined.",
  );
  for (const outcome of ["not-applicable", "unverified", "off"] as const)
    expect(noCauses(outcome, 0)).not.toMatch(/pass/);
});
