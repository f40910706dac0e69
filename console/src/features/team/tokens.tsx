import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { tokens } from "../../api/queries/team";
import type { Token, TokenBody } from "../../api/types";
import { day } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton, ShownOnce } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table, type Column } from "../../ui/table";
import { useSay } from "../../ui/toast";

const GOOD_FOR = { read: "reading", all: "everything" } as const;
const LASTS = [
  { value: "30", label: "30 days" },
  { value: "90", label: "90 days" },
  { value: "365", label: "a year" },
];

function hasEnded(token: Token): boolean {
  return token.expires_at != null && new Date(token.expires_at) <= new Date();
}

function endWords(token: Token): string {
  if (!token.expires_at) return "no end";
  return `${hasEnded(token) ? "ended" : "ends"} ${day(token.expires_at)}`;
}

/** The columns of tokens, with a way to revoke each. */
function useColumns(named: boolean) {
  const revoke = useChange(tokens.revoke());
  const say = useSay();
  const columns: Column<Token>[] = [
    {
      head: "Name",
      cell: (r) => (
        <>
          {r.name}
          {named && <span className="text-ink-3">, {r.member_name}</span>}
          <div className="text-ink-3 text-sm">
            <span className="font-mono">{r.begins}…</span> for {GOOD_FOR[r.scope]}, {endWords(r)}
          </div>
        </>
      ),
    },
    {
      head: "Revoke",
      quiet: true,
      cell: (r) => (
        <LinkButton
          aria-label={`Revoke ${r.name}`}
          onClick={() => revoke.mutate(r.id, { onSuccess: () => say(`${r.name} opens nothing any more.`) })}
        >
          revoke
        </LinkButton>
      ),
    },
  ];
  return { columns, error: revoke.error };
}

/** One's own tokens, and a form for another one. */
export function Tokens() {
  const found = useQuery(tokens.all());
  const form = useForm({ defaultValues: { name: "", scope: "all" as TokenBody["scope"], days: "365" } });
  const add = useChange(tokens.add());
  const { columns, error } = useColumns(false);
  return (
    <Card title="Your tokens" aside="for the command line and the API">
      {error && <Trouble error={error} />}
      <Loaded query={found} tall={3}>
        {(rows) => (
          <Table
            rows={rows.filter((t) => !t.revoked_at)}
            id={(r) => r.id}
            caption="Tokens"
            empty="No tokens yet. Create one to use the command line or the API."
            columns={columns}
          />
        )}
      </Loaded>
      {add.data?.secret && <ShownOnce code={add.data.secret}>Keep it now, it is not shown again:</ShownOnce>}
      <Form
        form={form}
        error={add.error}
        className="mt-2 space-y-3"
        onSend={(values) => add.mutate({ ...values, days: Number(values.days) }, { onSuccess: () => form.reset() })}
      >
        <Field name="name" label="Purpose" required />
        <div className="grid grid-cols-2 gap-2">
          <Field
            name="scope"
            label="Good for"
            kind="choice"
            choices={[
              { value: "all", label: "everything you may do" },
              { value: "read", label: "reading" },
            ]}
          />
          <Field name="days" label="Lasts" kind="choice" choices={LASTS} />
        </div>
        <Button type="submit">Make a token</Button>
      </Form>
    </Card>
  );
}

/** The tokens of all members that open something still, for owners. */
export function TokensOfEverybody() {
  const found = useQuery(tokens.ofEverybody());
  const { columns, error } = useColumns(true);
  return (
    <Card title="Tokens of all members">
      {error && <Trouble error={error} />}
      <Loaded query={found} tall={3}>
        {(rows) => (
          <Table
            rows={rows.filter((t) => !t.revoked_at && !hasEnded(t))}
            id={(r) => r.id}
            caption="Tokens of all members"
            empty="Nobody has a token."
            columns={columns}
          />
        )}
      </Loaded>
    </Card>
  );
}
