import { fireEvent, screen } from "@testing-library/react";
import { useState } from "react";
import { expect, test } from "vitest";
import type { ReportSection } from "../../api/types";
import { service, show } from "../../testing";
import { lastMonth } from "./screens";
import { freshSection, Sections } from "./sections";
import { asLines, recipientsIn } from "./sharing";

const state = service();

const OFFER = {
  languages: { en: "English", de: "Deutsch" },
  measures: {},
  sections: ["month", "health", "text"].map((kind) => ({
    kind,
    title: `The ${kind}`,
    about: `Tells of the ${kind}.`,
    choices: kind === "health" ? [{ name: "months", label: "Months", usual: 6, least: 1, most: 24 }] : [],
    picks: [],
  })),
};

function Kept({ begin, empty = [] }: { begin: ReportSection[]; empty?: string[] }) {
  const [sections, setSections] = useState(begin);
  return (
    <>
      <Sections sections={sections} onChange={setSections} empty={empty} />
      <output>{JSON.stringify(sections.map((each) => [each.key, each.choices, each.note]))}</output>
    </>
  );
}

const [month, health] = [freshSection("month", []), freshSection("health", [])];
const kept = () => JSON.parse(screen.getByRole("status").textContent) as [string, object, string][];

test("people are read from lines as they are written in mails", () => {
  expect(recipientsIn("Rosa Penhallow, rosa@a.example\n\n Jory <jory@a.example> \nx@a.example")).toEqual([
    { name: "Rosa Penhallow", email: "rosa@a.example" },
    { name: "Jory", email: "jory@a.example" },
    { name: "x@a.example", email: "x@a.example" },
  ]);
  expect(recipientsIn("Rosa Penhallow")).toBeNull();
  expect(recipientsIn("")).toEqual([]);
  const people = [{ name: "Rosa", email: "rosa@a.example" }];
  expect(recipientsIn(asLines(people))).toEqual(people);
});

test("the last month is whole, also in January and after a leap day", () => {
  expect(lastMonth(new Date("2027-01-31T23:00:00Z"))).toEqual(["2026-12-01", "2026-12-31"]);
  expect(lastMonth(new Date("2028-03-31T01:00:00Z"))).toEqual(["2028-02-01", "2028-02-29"]);
});

test("two sections of a kind are told apart", () => {
  expect(freshSection("text", [freshSection("text", [])]).key).toBe("text-2");
});

test("sections are moved, removed and chosen from", async () => {
  state.answers["GET /report-sections"] = { body: OFFER };
  show(<Kept begin={[month, health]} empty={["month"]} />);
  expect(await screen.findByText(/nothing to tell, left out/)).toBeTruthy();
  fireEvent.click(await screen.findByRole("button", { name: "Move The health up" }));
  expect(kept().map(([key]) => key)).toEqual(["health", "month"]);
  fireEvent.click(screen.getByRole("button", { name: "The health" }));
  fireEvent.change(screen.getByLabelText("Months"), { target: { value: "12" } });
  fireEvent.change(screen.getByLabelText("Your words"), { target: { value: "Well done." } });
  expect(kept()[0]).toEqual(["health", { months: 12 }, "Well done."]);
  fireEvent.change(screen.getByLabelText("Months"), { target: { value: "" } });
  expect(kept()[0]?.[1]).toEqual({});
  fireEvent.click(screen.getByRole("button", { name: "Remove The month" }));
  expect(kept().map(([key]) => key)).toEqual(["health"]);
});
