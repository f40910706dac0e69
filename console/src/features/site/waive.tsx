import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useContext, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { waivers } from "../../api/queries/sites";
import type { WaiverScope } from "../../api/types";
import { place, plural } from "../../lib/words";
import type { Choice } from "../../ui/controls";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";
import { useSay } from "../../ui/toast";
import { EarlierRun, useSite } from "./context";

type Found = { fingerprint: string; subject: string };
type Props = {
  /** One check, or several that are waived alike. */
  checks: readonly string[];
  summary: string;
  /** Findings of the one check that may be waived by themselves. */
  findings?: readonly Found[];
  label: string;
  quiet?: boolean;
  made?: () => void;
};

/** Waive a check: some of its findings, a page, a pattern of URLs, or the whole site. */
export function Waive({ label, quiet, ...rest }: Props) {
  const [open, setOpen] = useState(false);
  if (useContext(EarlierRun)) return null;
  return (
    <>
      {quiet ? (
        <LinkButton onClick={() => setOpen(true)} aria-label={`Waive: ${rest.summary}`}>
          {label}
        </LinkButton>
      ) : (
        <Button onClick={() => setOpen(true)}>{label}</Button>
      )}
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={rest.checks.length > 1 ? `Waive ${rest.summary}` : `Waive “${rest.summary}”`}
        description="Waived findings are still examined and listed, but count neither for health nor for to-dos."
      >
        {open && <WaiverForm {...rest} close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

type What = "findings" | "page" | "pattern" | "site";

/** What can be waived, the narrowest first. */
export function scopeChoices(findings: readonly Found[], host: string, checks = 1): Choice[] {
  const these = checks > 1 ? `These ${checks} checks` : "This check";
  const subjects = new Set(findings.map((f) => f.subject));
  const [subject = ""] = subjects;
  const ofSite = subjects.has("site");
  const pages =
    subjects.size === 1 ? `${these} on ${place(subject, host)}` : `${these} on ${plural(subjects.size, "page")}`;
  return [
    ...(findings.length > 0
      ? [{ value: "findings", label: findings.length === 1 ? "This finding" : `These ${findings.length} findings` }]
      : []),
    ...(findings.length > 0 && !ofSite ? [{ value: "page", label: pages }] : []),
    ...(ofSite ? [] : [{ value: "pattern", label: `${these} on URLs like …` }]),
    { value: "site", label: `${these} on the whole site` },
  ];
}

/** The waivers that a choice comes to; none while it is not complete. */
export function scopesOf(
  what: What,
  checks: readonly string[],
  findings: readonly Found[],
  pattern: string,
): WaiverScope[] {
  const scopes = (more: Partial<WaiverScope> = {}): WaiverScope[] =>
    checks.map((check) => ({ check, pattern: "", fingerprint: "", ...more }));
  if (what === "findings") return findings.flatMap((f) => scopes({ fingerprint: f.fingerprint }));
  if (what === "page")
    return [...new Set(findings.map((f) => f.subject))].flatMap((subject) => scopes({ pattern: subject }));
  if (what === "pattern") return pattern.trim() ? scopes({ pattern: pattern.trim() }) : [];
  return scopes();
}

function WaiverForm({ checks, findings = [], made, close }: Omit<Props, "label"> & { close: () => void }) {
  const { site } = useSite();
  const say = useSay();
  const choices = scopeChoices(findings, site.host, checks.length);
  const form = useForm({
    defaultValues: { what: findings.length > 0 ? "findings" : "site", reason: "", pattern: "", end: "" },
  });
  const [what, pattern] = useWatch({ control: form.control, name: ["what", "pattern"] });
  const scopes = scopesOf(what as What, checks, findings, useDeferredValue(pattern));
  const effect = useQuery(waivers.preview(site.id, scopes, scopes.length > 0));
  const add = useChange(waivers.add(site.id));
  const end = useChange(waivers.end());
  const undo = (ids: number[]) =>
    sendThen(
      end,
      ids,
      () => say("The waiver is undone."),
      (problem) => say(`${problem.detail} ${problem.hint}`),
    );
  return (
    <Form
      form={form}
      error={add.error}
      onSend={(values) =>
        sendThen(
          add,
          scopesOf(values.what as What, checks, findings, values.pattern).map((scope) => ({
            ...scope,
            reason: values.reason,
            end: values.end || null,
          })),
          (rows) => {
            say(rows[0]?.note || (effect.data?.findings ? `Waived. ${effect.data.sentence}` : "Waived."), () =>
              undo(rows.map((row) => row.id)),
            );
            made?.();
            close();
          },
        )
      }
    >
      <Field name="what" label="What" kind="choice" choices={choices} />
      {what === "pattern" && (
        <Field
          name="pattern"
          label="URLs"
          required
          hint="A path such as /shop/*, a full URL, or regex: followed by an expression"
          placeholder="/shop/*"
        />
      )}
      <Field name="reason" label="Reason" required shortest={3} autoFocus />
      <Field name="end" label="Until" kind="day" hint="Leave empty for no end date" />
      <div aria-live="polite" className="min-h-11">
        {scopes.length > 0 && effect.error && (
          <p className="text-bad text-sm">
            {effect.error.detail} {effect.error.hint}
          </p>
        )}
        {effect.data && !effect.error && <p className="bg-sunk rounded-md px-2.5 py-1.5">{effect.data.sentence}</p>}
        {(effect.data?.todos ?? []).map((todo) => (
          <p key={todo.id} className="text-ink-3 text-sm">
            <Link to={`/todos/${todo.id}`}>To-do {todo.id}</Link> holds some of it: {todo.title}
          </p>
        ))}
      </div>
      <div className="flex gap-2">
        <Button main type="submit" disabled={add.isPending}>
          {add.isPending ? "Waiving…" : "Waive"}
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
