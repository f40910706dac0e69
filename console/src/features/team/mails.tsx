import { useQuery } from "@tanstack/react-query";
import { useChange } from "../../api/change";
import { mails } from "../../api/queries/team";
import type { Delivery } from "../../api/types";
import { moment, plural } from "../../lib/words";
import { Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";

/** Mails that the service wrote, and what became of them. */
export function Mails() {
  const found = useQuery(mails.all());
  const again = useChange(mails.again());
  const say = useSay();
  return (
    <Card title="Mails" aside="tried again for five days">
      {again.error && <Trouble error={again.error} />}
      <Loaded query={found} tall={4}>
        {(rows) => (
          <Table
            rows={rows}
            id={(r) => r.id}
            caption="Mails"
            empty="No mails yet. Say under a site's plan who is told when a run has ended."
            columns={[
              {
                head: "Written",
                sort: (r) => r.at,
                cell: (r) => <span className="whitespace-nowrap">{moment(r.at)}</span>,
              },
              {
                head: "Mail",
                cell: (r) => (
                  <>
                    {r.subject}
                    <div className="text-ink-3 text-sm break-all">to {r.recipient}</div>
                  </>
                ),
              },
              { head: "State", sort: (r) => r.state, cell: (r) => <State mail={r} /> },
              {
                head: "Send again",
                quiet: true,
                cell: (r) =>
                  r.state !== "sent" && (
                    <LinkButton
                      disabled={again.isPending}
                      aria-label={`Send the mail to ${r.recipient} again`}
                      onClick={() => again.mutate(r.id, { onSuccess: () => say("The mail is sent now.") })}
                    >
                      send again
                    </LinkButton>
                  ),
              },
            ]}
          />
        )}
      </Loaded>
    </Card>
  );
}

function State({ mail }: { mail: Delivery }) {
  if (mail.state === "sent") return <>sent</>;
  return (
    <>
      <span className={mail.state === "given up" ? "text-bad" : ""}>
        {mail.state === "given up"
          ? `given up after ${plural(mail.attempts, "attempt")}`
          : mail.attempts === 0
            ? "being sent"
            : `tried again ${moment(mail.next_at)}`}
      </span>
      {mail.error && <div className="text-ink-3 max-w-80 text-sm break-words">{mail.error}</div>}
    </>
  );
}
