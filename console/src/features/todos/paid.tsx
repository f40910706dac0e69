/** Whether a confirmed to-do paid, in a sentence with what it rests on. */
import { useQuery } from "@tanstack/react-query";
import { figures } from "../../api/queries/figures";
import type { Todo } from "../../api/types";
import { count, day } from "../../lib/words";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";

export function DidItPay({ todo }: { todo: Todo }) {
  const found = useQuery(figures.paid(todo.id));
  return (
    <Card title="Did it pay?">
      <Loaded query={found} tall={2}>
        {(paid) => (
          <>
            <p>{paid.sentence}</p>
            {paid.change !== null && paid.change !== undefined && (
              <p className="text-ink-3 mt-1 text-sm">
                Clicks to its pages: {count(paid.before)} from {day(paid.before_first)} to {day(paid.before_last)},{" "}
                {count(paid.after)} from {day(paid.first)} to {day(paid.last)}. The rest of the site:{" "}
                {count(paid.rest_before)} and {count(paid.rest_after)}. In brackets, the 95 % interval.
              </p>
            )}
          </>
        )}
      </Loaded>
    </Card>
  );
}
