import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { waivers } from "../../api/queries/sites";
import type { ProblemError } from "../../api/service";
import type { Waiver } from "../../api/types";
import { count, day, place } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Address, Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { useSite } from "./context";

/** The waivers of a site: what, why, by whom, and whether each still covers anything. */
export function Waivers() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const found = useQuery(waivers.of(site.id));
  const end = useChange(waivers.end());
  const add = useChange(waivers.add(site.id));
  const [edited, setEdited] = useState<Waiver>();
  const failed = (problem: ProblemError) => say(`${problem.detail} ${problem.hint}`);
  const again = (rows: Waiver[]) =>
    sendThen(
      add,
      rows.map(({ check, pattern, fingerprint, reason, end: until }) => ({
        check,
        pattern,
        fingerprint,
        reason,
        end: until,
      })),
      () => say("Waived again."),
      failed,
    );
  const remove = (rows: Waiver[], clear?: () => void) =>
    sendThen(
      end,
      rows.map((row) => row.id),
      () => {
        clear?.();
        say(rows.length === 1 ? "The waiver has ended." : `${rows.length} waivers have ended.`, () => again(rows));
      },
    );
  return (
    <Card title="Waivers" aside="still examined, not counted">
      {end.error && <Trouble error={end.error} />}
      <Loaded query={found} tall={3}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Waivers"
            empty="Nothing is waived on this site. Waive a check, a page or findings where they are listed."
            act={
              may("remove_waivers")
                ? (chosen, clear) => <LinkButton onClick={() => remove(chosen, clear)}>End waivers</LinkButton>
                : undefined
            }
            columns={[
              {
                head: "Check",
                cell: (r) => (
                  <>
                    {r.summary}
                    <div>
                      {r.pattern ? (
                        <Address text={place(r.pattern, site.host)} chars={42} />
                      ) : (
                        <span className="text-ink-3 text-sm">{r.fingerprint ? "one finding" : "the whole site"}</span>
                      )}
                    </div>
                    <div className="text-ink-3 text-sm">
                      {r.reason} ({r.author ? `${r.author}, ` : ""}
                      {day(r.start)})
                    </div>
                  </>
                ),
              },
              { head: "Covers", number: true, cell: (r) => <Covers waiver={r} /> },
              {
                head: "Until",
                cell: (r) => (
                  <span className="whitespace-nowrap">
                    {r.end ? day(r.end) : "no end"}
                    {r.ends_soon && <span className="text-bad block text-sm">ends soon</span>}
                    {!r.in_force && <span className="text-ink-3 block text-sm">ended</span>}
                  </span>
                ),
              },
              {
                head: "Change",
                quiet: true,
                cell: (r) =>
                  may("change_waiver") && (
                    <span className="flex gap-2.5">
                      <LinkButton aria-label={`Edit the waiver of ${r.summary}`} onClick={() => setEdited(r)}>
                        Edit
                      </LinkButton>
                      <LinkButton aria-label={`End the waiver of ${r.summary}`} onClick={() => remove([r])}>
                        End
                      </LinkButton>
                    </span>
                  ),
              },
            ]}
          />
        )}
      </Loaded>
      <Dialog
        open={edited !== undefined}
        onOpenChange={(open) => open || setEdited(undefined)}
        title={`Edit the waiver of “${edited?.summary ?? ""}”`}
        description="What it covers stays the same; the latest run follows at once."
      >
        {edited && <EditForm waiver={edited} close={() => setEdited(undefined)} />}
      </Dialog>
    </Card>
  );
}

/** How many findings of the latest run a waiver covers; one that covers none may be needed no more. */
function Covers({ waiver }: { waiver: Waiver }) {
  if (waiver.covers === null || waiver.covers === undefined) return <span className="text-ink-3">–</span>;
  if (waiver.covers === 0) return <span className="text-ink-3 text-sm">matches nothing</span>;
  return count(waiver.covers);
}

function EditForm({ waiver, close }: { waiver: Waiver; close: () => void }) {
  const say = useSay();
  const form = useForm({ defaultValues: { reason: waiver.reason, end: waiver.end ?? "" } });
  const change = useChange(waivers.change());
  return (
    <Form
      form={form}
      error={change.error}
      onSend={(values) =>
        change.mutate(
          { id: waiver.id, reason: values.reason, end: values.end || null },
          {
            onSuccess: (row) => {
              say(row.note || "The waiver is changed.");
              close();
            },
          },
        )
      }
    >
      <Field name="reason" label="Reason" required shortest={3} />
      <Field name="end" label="Until" kind="day" hint="Leave empty for no end date" />
      <div className="flex gap-2">
        <Button main type="submit" disabled={change.isPending}>
          Save waiver
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
