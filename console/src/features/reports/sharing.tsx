/** Whom a report was sent to or shared with, and sending it to somebody. */
import { useState } from "react";
import { useForm } from "react-hook-form";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { LINK_DAYS, reports } from "../../api/queries/reports";
import type { Recipient, ReportFull } from "../../api/types";
import { day, moment, plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton, ShownOnce } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

const PERSON = /^(.*?)[\s,]*<?([^\s,;<>@]+@[^\s,;<>@]+)>?$/;

/** People as they are typed, a name and an address on each line; null where a line holds no address. */
export function recipientsIn(text: string): Recipient[] | null {
  const found = text
    .split("\n")
    .map((each) => each.trim())
    .filter(Boolean)
    .map((each) => PERSON.exec(each));
  if (found.some((each) => each === null)) return null;
  return found.map((each) => {
    const email = each?.[2] ?? "";
    return { name: each?.[1]?.trim() || email, email };
  });
}

/** People, one on each line, as they can be typed again. */
export const asLines = (people: readonly Recipient[]) => people.map((each) => `${each.name}, ${each.email}`).join("\n");

export function Sharing({ report }: { report: ReportFull }) {
  const may = useMay();
  const [sending, setSending] = useState(false);
  const [sharing, setSharing] = useState(false);
  const say = useSay();
  const revoke = useChange(reports.revokeLink(report.id));
  const prolong = useChange(reports.prolongLink(report.id));
  const error = revoke.error ?? prolong.error;
  const approved = report.approved_version != null;
  return (
    <Card
      title="Readers"
      aside={
        <span className="flex gap-2">
          {may("add_report_link") && (
            <Button disabled={!approved} onClick={() => setSharing(true)}>
              Share by link…
            </Button>
          )}
          {may("send_report") && (
            <Button disabled={report.state === "draft"} onClick={() => setSending(true)}>
              Send…
            </Button>
          )}
        </span>
      }
    >
      {!approved && <p className="text-ink-3">Nobody outside the agency sees it before it is approved.</p>}
      {approved && report.links.length === 0 && <p className="text-ink-3">It was sent to and shared with nobody.</p>}
      {error && <Trouble error={error} />}
      <ul className="divide-line divide-y">
        {report.links.map((link) => (
          <li key={link.id} className="flex flex-wrap items-baseline justify-between gap-x-3 py-1.5">
            <span className={link.ended ? "text-ink-3" : ""}>
              {link.name} {link.email && <span className="text-ink-3 text-sm">{link.email}</span>}
              <span className="text-ink-3 block text-sm">
                {link.seen > 0 ? `opened ${plural(link.seen, "time")}, last ${moment(link.seen_at)}` : "not opened yet"}
                {link.passphrase && ", with a passphrase"}
                {link.revoked_at ? ", revoked" : link.ended ? ", ended" : `, good until ${day(link.expires_at)}`}
              </span>
            </span>
            <span className="flex gap-3">
              {may("prolong_report_link") && !link.revoked_at && (
                <LinkButton
                  aria-label={`Prolong the link of ${link.name}`}
                  title={`Good for ${LINK_DAYS} days from today`}
                  disabled={prolong.isPending}
                  onClick={() =>
                    sendThen(prolong, link.id, () => say(`The link of ${link.name} is good for ${LINK_DAYS} days.`))
                  }
                >
                  Prolong
                </LinkButton>
              )}
              {may("revoke_report_link") && !link.ended && (
                <LinkButton
                  aria-label={`Revoke the link of ${link.name}`}
                  disabled={revoke.isPending}
                  onClick={() => revoke.mutate(link.id)}
                >
                  Revoke
                </LinkButton>
              )}
            </span>
          </li>
        ))}
      </ul>
      <Send report={report} open={sending} onOpenChange={setSending} />
      <Share report={report} open={sharing} onOpenChange={setSharing} />
    </Card>
  );
}

type Opened = { report: ReportFull; open: boolean; onOpenChange: (open: boolean) => void };

function Send({ report, open, onOpenChange }: Opened) {
  const say = useSay();
  const send = useChange(reports.send(report.id));
  const planned = report.planned;
  const form = useForm({
    defaultValues: {
      recipients: planned ? asLines(planned.recipients) : "",
      subject: planned?.subject ?? "",
      cover: planned?.cover ?? "",
    },
  });
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Send report"
      description="Everybody gets a mail with a link of their own, and the PDF."
    >
      <Form
        form={form}
        error={send.error}
        onSend={(values) => {
          const recipients = recipientsIn(values.recipients);
          if (!recipients?.length)
            return form.setError("recipients", { message: "Write a name and an address on each line." });
          sendThen(send, { ...values, recipients, days: 90 }, () => {
            say(`On its way to ${recipients.map((each) => each.name).join(", ")}.`);
            onOpenChange(false);
          });
        }}
      >
        <Field
          name="recipients"
          label="To"
          kind="long"
          rows={3}
          required
          hint="One on each line: Rosa Penhallow, rosa@tidewrack.example"
        />
        <Field name="subject" label="Subject" placeholder={report.title} longest={200} />
        <Field name="cover" label="Your words" kind="long" rows={5} hint="Empty: a sentence in the report’s language" />
        <Button main type="submit" disabled={send.isPending}>
          Send report
        </Button>
      </Form>
    </Dialog>
  );
}

function Share({ report, open, onOpenChange }: Opened) {
  const share = useChange(reports.addLink(report.id));
  const form = useForm({ defaultValues: { name: "", days: "90", passphrase: "" } });
  return (
    <Dialog
      open={open}
      onOpenChange={(next) => {
        if (!next) {
          share.reset();
          form.reset();
        }
        onOpenChange(next);
      }}
      title="Share by link"
      description="Whoever has the link reads what was approved, until it ends."
    >
      {share.data?.url ? (
        <ShownOnce code={share.data.url}>Copy the address now; it is not shown again:</ShownOnce>
      ) : (
        <Form
          form={form}
          error={share.error}
          onSend={({ name, days, passphrase }) => share.mutate({ name, days: Number(days), passphrase })}
        >
          <Field name="name" label="For" required longest={100} hint="So that you know later whose link it is" />
          <Field name="days" label="Days" kind="number" required />
          <Field
            name="passphrase"
            label="Passphrase"
            shortest={8}
            autoComplete="off"
            hint="Asked for before it opens; empty: none"
          />
          <Button main type="submit" disabled={share.isPending}>
            Create link
          </Button>
        </Form>
      )}
    </Dialog>
  );
}
