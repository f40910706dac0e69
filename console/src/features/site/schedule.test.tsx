import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { choose, service, show } from "../../testing";
import { ScheduleCard } from "./schedule";

const stub = service();
const NOW = {
  rule: "weekly:TU",
  at: "02:00",
  zone: "Europe/London",
  mail_to: ["a@x.example"],
  words: "every Tuesday",
  next_due_at: null,
};

function showSchedule(schedule: object | null) {
  stub.answers["PUT /sites/9/schedule"] = { body: NOW };
  show(<ScheduleCard />, { context: { site: { id: 9, host: "a.example", kind: "own", schedule }, run: null } });
}
const sent = () => stub.sent.findLast((s) => s.method === "PUT")?.body as { rule: string } | undefined;

describe("the schedule", () => {
  it("shows what is set and sends it back unchanged", async () => {
    showSchedule({ ...NOW, rule: "FREQ=MONTHLY;BYDAY=-1FR" });
    fireEvent.click(await screen.findByText("Save schedule"));
    await waitFor(() =>
      expect(sent()).toEqual({
        rule: "FREQ=MONTHLY;BYDAY=-1FR",
        at: "02:00",
        zone: "Europe/London",
        mail_to: ["a@x.example"],
      }),
    );
  });
  it("is chosen by days of the week, at least one", async () => {
    showSchedule(NOW);
    fireEvent.click(await screen.findByLabelText("Tue"));
    fireEvent.click(screen.getByText("Save schedule"));
    expect(await screen.findByText("Choose at least one day of the week.")).toBeTruthy();
    expect(sent()).toBeUndefined();
    fireEvent.click(screen.getByLabelText("Mon"));
    fireEvent.click(screen.getByLabelText("Thu"));
    fireEvent.click(screen.getByText("Save schedule"));
    await waitFor(() => expect(sent()?.rule).toBe("weekly:MO,TH"));
  });
  it("takes a rule of one's own", async () => {
    showSchedule(null);
    await choose("How often", "By a rule of your own");
    fireEvent.change(screen.getByLabelText("Rule"), { target: { value: "FREQ=YEARLY" } });
    fireEvent.click(screen.getByText("Save schedule"));
    await waitFor(() => expect(sent()?.rule).toBe("FREQ=YEARLY"));
  });
});
