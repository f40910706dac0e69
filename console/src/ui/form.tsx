/** Forms: one component for the form, one for every field. */
import { type ReactNode, useContext, useEffect } from "react";
import {
  type FieldPath,
  type FieldValues,
  FormProvider,
  useController,
  useFormContext,
  type UseFormReturn,
} from "react-hook-form";
import { datePattern, readDay, readTime } from "../lib/dates";
import { Combo } from "./combo";
import { type Choice, controlClass, DateOrderContext, DayInput, Labelled, Select, Tick, TimeInput } from "./controls";
import { type Problem, Trouble } from "./state";

type FormProps<V extends FieldValues> = {
  form: UseFormReturn<V>;
  onSend: (values: V) => unknown;
  /** What the service answered. A problem of one field is said at the field, any other below the fields. */
  error?: Problem | null;
  children: ReactNode;
  className?: string;
  autoComplete?: string;
};

export function Form<V extends FieldValues>({
  form,
  onSend,
  error,
  children,
  className = "space-y-3",
  autoComplete,
}: FormProps<V>) {
  const at = fieldOf(error, form);
  useEffect(() => {
    if (error && at)
      form.setError(at, { type: "service", message: `${error.detail} ${error.hint}`.trim() }, { shouldFocus: true });
  }, [error, at, form]);
  return (
    <FormProvider {...form}>
      <form
        noValidate
        autoComplete={autoComplete}
        className={className}
        onSubmit={(event) => void form.handleSubmit(onSend)(event)}
      >
        {children}
        {error && !at && <Trouble error={error} />}
      </form>
    </FormProvider>
  );
}

function fieldOf<V extends FieldValues>(
  error: Problem | null | undefined,
  form: UseFormReturn<V>,
): FieldPath<V> | undefined {
  const names = Object.keys(form.getValues()) as FieldPath<V>[];
  return names.find((name) => name === error?.field);
}

export type FieldKind =
  "text" | "email" | "password" | "number" | "long" | "choice" | "search" | "tick" | "day" | "time";

type FieldProps = {
  name: string;
  label: string;
  hint?: ReactNode;
  kind?: FieldKind;
  choices?: readonly Choice[];
  required?: boolean;
  /** The shortest text that will do, in characters. */
  shortest?: number;
  longest?: number;
  rows?: number;
  mono?: boolean;
  placeholder?: string;
  autoComplete?: string;
  autoFocus?: boolean;
  disabled?: boolean;
  /** Called after a change, for what is sent at once. */
  onChanged?: (value: string | boolean) => void;
};

const EMAIL = /^[^@\s]+@[^@\s]+\.[^@\s]+$/;

export function Field({ name, label, hint, kind = "text", choices = [], disabled, onChanged, ...rest }: FieldProps) {
  const order = useContext(DateOrderContext);
  const { control } = useFormContext();
  const { field, fieldState } = useController({
    name,
    control,
    rules: {
      required: rest.required ? `${label} is needed.` : false,
      validate: (value: unknown) =>
        complaint(kind, typeof value === "string" ? value : "", rest.shortest, datePattern(order)),
    },
  });
  const value: unknown = field.value;
  const text = typeof value === "string" ? value : "";
  const change = (value: string | boolean) => {
    field.onChange(value);
    onChanged?.(value);
  };
  return (
    <Labelled label={label} hint={hint} wrong={fieldState.error?.message} beside={kind === "tick"}>
      {(ties) => {
        const tied = { ...ties, disabled };
        if (kind === "tick") return <Tick {...tied} checked={value === true} onChange={change} />;
        if (kind === "choice")
          return <Select {...tied} value={text} onChange={change} choices={choices} placeholder={rest.placeholder} />;
        if (kind === "search")
          return <Combo {...tied} value={text} onChange={change} choices={choices.map((c) => c.value)} />;
        if (kind === "day") return <DayInput {...tied} name={label.toLowerCase()} value={text} onChange={change} />;
        if (kind === "time") return <TimeInput {...tied} value={text} onChange={change} />;
        const typed = {
          ...tied,
          className: rest.mono ? `${controlClass} font-mono text-sm` : controlClass,
          placeholder: rest.placeholder,
          autoComplete: rest.autoComplete,
          autoFocus: rest.autoFocus,
          maxLength: rest.longest,
          value: text,
          ref: field.ref,
          onBlur: field.onBlur,
          onChange: (event: { target: { value: string } }) => change(event.target.value),
        };
        if (kind === "long") return <textarea rows={rest.rows ?? 3} {...typed} />;
        return <input type={kind} step={kind === "number" ? "any" : undefined} {...typed} />;
      }}
    </Labelled>
  );
}

/** What is wrong with a value that was given, in words; true when nothing is. */
function complaint(kind: FieldKind, value: string, shortest: number | undefined, pattern: string): true | string {
  if (value === "") return true;
  if (kind === "email" && !EMAIL.test(value)) return "That is no e-mail address.";
  if (kind === "day" && readDay(value, "year-first") === null) return `That is no day. Write it as ${pattern}.`;
  if (kind === "time" && readTime(value) === null) return "That is no time. Write it as hh:mm, from 00:00 to 23:59.";
  if (shortest && value.trim().length < shortest) return `Give ${shortest} characters or more.`;
  return true;
}
