import { expect, test } from "vitest";
import { scopeChoices, scopesOf } from "./waive";

const HOST = "shop.example";
const found = (fingerprint: string, subject: string) => ({ fingerprint, subject });
const A = found("a1", "https://shop.example/a");
const B = found("b2", "https://shop.example/b");
const scope = (more: object) => ({ check: "text-thin", pattern: "", fingerprint: "", ...more });

test("the narrowest choice comes first, and only those that can cover something are offered", () => {
  const labels = (...findings: (typeof A)[]) => scopeChoices(findings, HOST).map((choice) => choice.label);
  expect(labels()).toEqual(["This check on URLs like …", "This check on the whole site"]);
  expect(labels(A)).toEqual([
    "This finding",
    "This check on /a",
    "This check on URLs like …",
    "This check on the whole site",
  ]);
  expect(labels(A, B).slice(0, 2)).toEqual(["These 2 findings", "This check on 2 pages"]);
  expect(scopeChoices([], HOST, 3).map((choice) => choice.label)).toEqual([
    "These 3 checks on URLs like …",
    "These 3 checks on the whole site",
  ]);
  expect(labels(found("c3", "site"))).toEqual(["This finding", "This check on the whole site"]);
});

test("a choice becomes the waivers that it says", () => {
  expect(scopesOf("findings", ["text-thin"], [A, B], "")).toEqual([
    scope({ fingerprint: "a1" }),
    scope({ fingerprint: "b2" }),
  ]);
  expect(scopesOf("page", ["text-thin"], [A, A, B], "")).toEqual([
    scope({ pattern: A.subject }),
    scope({ pattern: B.subject }),
  ]);
  expect(scopesOf("pattern", ["text-thin"], [A], " /shop/* ")).toEqual([scope({ pattern: "/shop/*" })]);
  expect(scopesOf("pattern", ["text-thin"], [A], " ")).toEqual([]);
  expect(scopesOf("site", ["text-thin"], [A], "/x")).toEqual([scope({})]);
  expect(scopesOf("pattern", ["text-thin", "link-broken"], [], "/shop/*")).toEqual([
    scope({ pattern: "/shop/*" }),
    scope({ check: "link-broken", pattern: "/shop/*" }),
  ]);
});
