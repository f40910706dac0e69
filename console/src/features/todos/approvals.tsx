/** To-dos that wait for the client: read by guests of the client, and by the agency for whoever rings up. */
import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useState } from "react";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { approvals } from "../../api/queries/work";
import type { ToApprove } from "../../api/types";
import { day, gain, plural } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Markdown } from "../../ui/markdown";
import { Severity } from "../../ui/signs";
import { Loaded } from "../../ui/state";
import { useSay } from "../../ui/toast";

export function ApprovalsScreen() {
  const found = useQuery(approvals.all());
  return (
    <>
      <Title of={["Approvals"]} />
      <Heading title="Approvals" />
      <p className="text-ink-3 mb-3">What is to be done next, and waits for the client to agree.</p>
      <Loaded query={found}>
        {(rows) =>
          rows.length === 0 ? (
            <p className="text-ink-3">Nothing waits for an answer.</p>
          ) : (
            <div className="max-w-3xl space-y-3.5">
              {rows.map((row) => (
                <Waiting key={row.todo_id} row={row} />
              ))}
            </div>
          )
        }
      </Loaded>
    </>
  );
}

/** A to-do that waits, with what answers it. */
export function Waiting({ row }: { row: ToApprove }) {
  const may = useMay();
  const say = useSay();
  const [asking, setAsking] = useState(false);
  const answer = useChange(approvals.answer(row.todo_id));
  const form = useForm({ defaultValues: { comment: "" } });
  const title = may("get_todo") ? <Link to={`/todos/${row.todo_id}`}>{row.title}</Link> : row.title;
  return (
    <Card title={title} aside={row.due ? `by ${day(row.due)}` : undefined}>
      <p className="mb-2 flex flex-wrap items-center gap-x-3.5">
        <Severity name={row.severity} />
        <span className="text-ink-2">
          {row.site_host}
          {row.places > 0 && `, ${plural(row.places, "place")}`}
        </span>
        {row.gain !== null && row.gain > 0 && (
          <span>
            worth <b className="text-good font-semibold">{gain(row.gain)}</b> points of health
          </span>
        )}
      </p>
      {row.why && <p className="mb-2">{row.why}</p>}
      {row.note && <Markdown text={row.note} />}
      {asking ? (
        <Form
          form={form}
          error={answer.error}
          onSend={({ comment }) =>
            answer.mutate(
              { agrees: false, comment },
              {
                onSuccess: () => {
                  form.reset();
                  setAsking(false);
                  say("The question is sent; the to-do waits on.");
                },
              },
            )
          }
        >
          <Field name="comment" label="What should be different?" kind="long" required longest={5000} autoFocus />
          <div className="flex items-center gap-3">
            <Button main type="submit" disabled={answer.isPending}>
              Ask
            </Button>
            <LinkButton onClick={() => setAsking(false)}>cancel</LinkButton>
          </div>
        </Form>
      ) : (
        <div className="mt-2 flex items-center gap-3">
          <Button
            main
            disabled={answer.isPending}
            onClick={() =>
              answer.mutate({ agrees: true, comment: "" }, { onSuccess: () => say(`“${row.title}” is agreed to.`) })
            }
          >
            Agree
          </Button>
          <Button onClick={() => setAsking(true)}>Ask back…</Button>
          {answer.error && <span className="text-bad">{answer.error.detail}</span>}
        </div>
      )}
    </Card>
  );
}
