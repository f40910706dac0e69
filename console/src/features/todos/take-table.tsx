import { useState } from "react";
import { useForm } from "react-hook-form";
import { sendThen, useChange } from "../../api/change";
import { todos } from "../../api/queries/work";
import { plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";
import { useSay } from "../../ui/toast";

/** To-dos from a table: it is read first, so that what is wrong is seen before anything is made. */
export function TakeTable({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Import to-dos"
      description="A CSV table with the columns site and title, and where wanted note, assignee, due, priority, severity, hours and labels. All rows are taken, or none."
    >
      {open && <Take close={() => onOpenChange(false)} />}
    </Dialog>
  );
}

function Take({ close }: { close: () => void }) {
  const say = useSay();
  const form = useForm({ defaultValues: { csv: "" } });
  const [good, setGood] = useState<{ csv: string; rows: number } | null>(null);
  const check = useChange(todos.take());
  const take = useChange(todos.take());
  const read = ({ csv }: { csv: string }) =>
    sendThen(check, { csv, check_only: true }, (found) => setGood({ csv, rows: found.rows }));
  const make = () => {
    if (!good) return;
    sendThen(take, { csv: good.csv, check_only: false }, (found) => {
      say(`${plural(found.rows, "to-do")} made.`);
      close();
    });
  };
  return (
    <Form form={form} error={check.error ?? take.error} onSend={read}>
      <Field
        name="csv"
        label="Table"
        kind="long"
        rows={8}
        mono
        required
        placeholder={"site,title,assignee,due\nshop.example,Ask for the log files,Oona,2099-01-31"}
        onChanged={() => setGood(null)}
      />
      <label className="text-accent inline-block cursor-pointer hover:underline">
        Read it from a file
        <input
          type="file"
          accept=".csv,text/csv,text/plain"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (!file) return;
            void file.text().then((text) => {
              form.setValue("csv", text);
              setGood(null);
            });
            event.target.value = "";
          }}
        />
      </label>
      <div className="flex items-center gap-3">
        {good ? (
          <>
            <Button main disabled={take.isPending} onClick={make}>
              Make {plural(good.rows, "to-do")}
            </Button>
            <span className="text-ink-2">Every row can be read.</span>
          </>
        ) : (
          <Button main type="submit" disabled={check.isPending}>
            Check the table
          </Button>
        )}
        <LinkButton onClick={close}>cancel</LinkButton>
      </div>
    </Form>
  );
}
