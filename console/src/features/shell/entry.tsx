import type { ReactNode } from "react";
import type { FieldValues, UseFormReturn } from "react-hook-form";
import { Form } from "../../ui/form";
import type { Problem } from "../../ui/state";
import { Title } from "../../ui/parts";
import { Mark } from "./mark";

type EntryProps<V extends FieldValues> = {
  title: string;
  heading: string;
  form: UseFormReturn<V>;
  error?: Problem | null;
  onSend: (values: V) => unknown;
  children: ReactNode;
};

/** A form in the middle of the window, for who is not signed in. */
export function Entry<V extends FieldValues>({ title, heading, form, error, onSend, children }: EntryProps<V>) {
  return (
    <main className="grid min-h-screen place-items-center px-4">
      <Title of={[title]} />
      <Form
        form={form}
        error={error}
        className="bg-surface border-line w-full max-w-sm space-y-3.5 rounded-md border p-6"
        onSend={onSend}
      >
        <div className="flex items-center gap-2">
          <Mark />
          <h1 className="text-[17px] font-semibold">{heading}</h1>
        </div>
        {children}
      </Form>
    </main>
  );
}
