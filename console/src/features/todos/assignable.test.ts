import { describe, expect, it } from "vitest";
import type { Client, Member } from "../../api/types";
import { assignable } from "./assignable";

const member = (id: number, role: string, active = true) =>
  ({ id, role, active, name: `M${id}`, open_todos: 0 }) as Member;
const client = (id: number, sites: number[], member_ids: number[]) =>
  ({ id, member_ids, sites: sites.map((site) => ({ id: site })) }) as Client;

const people = [
  member(1, "lead"),
  member(2, "fixer"),
  member(3, "analyst"),
  member(4, "guest"),
  member(5, "fixer", false),
];
const firms = [client(1, [10], [2]), client(2, [20, 21], []), client(3, [30], [2, 3])];
const shown = (...sites: number[]) => assignable(people, firms, sites).map((each) => Number(each.value));

describe("who can be given a to-do", () => {
  it("is everybody of the agency who is still there", () => expect(shown(20)).toEqual([1, 2, 3]));
  it("is who sees the client, and every lead", () => expect(shown(10)).toEqual([1, 2]));
  it("is who sees every client concerned", () => expect(shown(30, 10, 21)).toEqual([1, 2]));
  it("is everybody where no site is chosen yet", () => expect(shown()).toEqual([1, 2, 3]));
});
