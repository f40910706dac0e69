import { useState } from "react";
import { useOutletContext } from "react-router";
import type { Member } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { moment } from "../../lib/words";
import { Button, Card, Field, Heading, LinkButton, Loaded, Table, Trouble } from "../../ui/parts";

type Token = {
  id: number;
  name: string;
  begins: string;
  created_at: string;
  revoked_at: string | null;
  secret: string | null;
};
const ROLES = ["lead", "analyst", "fixer"];

export function TeamScreen() {
  const me = useOutletContext<Member>();
  const members = useRead<Member[]>("/members");
  return (
    <>
      <Heading title="Team & settings" />
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[1.6fr_1fr]">
        <Card title="Members">
          <Loaded query={members}>
            {(rows) => (
              <Table
                rows={rows}
                id={(r) => r.id}
                caption="Members"
                empty="Nobody yet."
                columns={[
                  {
                    head: "Name",
                    cell: (r) => (
                      <>
                        <b className="font-semibold">{r.name}</b>
                        <div className="text-ink-3 text-sm">{r.email}</div>
                      </>
                    ),
                  },
                  { head: "Role", cell: (r) => r.role + (r.active ? "" : " (off)") },
                  { head: "To-dos", number: true, cell: (r) => r.open_todos },
                  {
                    head: "Overdue",
                    number: true,
                    cell: (r) => <span className={r.overdue_todos ? "text-bad" : ""}>{r.overdue_todos}</span>,
                  },
                ]}
              />
            )}
          </Loaded>
        </Card>
        <div className="space-y-3.5">
          {["owner", "lead"].includes(me.role) && <AddMember />}
          <Tokens />
        </div>
      </div>
    </>
  );
}

function AddMember() {
  const empty = { name: "", email: "", role: "analyst", password: "" };
  const [values, setValues] = useState(empty);
  const add = useChange<typeof values>("POST", "/members");
  return (
    <Card title="Add a member">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate(values, { onSuccess: () => setValues(empty) });
        }}
      >
        <Field label="Name">
          {(c) => (
            <input
              className={c}
              required
              value={values.name}
              onChange={(e) => setValues({ ...values, name: e.target.value })}
            />
          )}
        </Field>
        <Field label="E-mail address">
          {(c) => (
            <input
              className={c}
              type="email"
              required
              value={values.email}
              onChange={(e) => setValues({ ...values, email: e.target.value })}
            />
          )}
        </Field>
        <Field label="Role">
          {(c) => (
            <select className={c} value={values.role} onChange={(e) => setValues({ ...values, role: e.target.value })}>
              {ROLES.map((r) => (
                <option key={r}>{r}</option>
              ))}
            </select>
          )}
        </Field>
        <Field label="First password" hint="10 characters or more">
          {(c) => (
            <input
              className={c}
              type="password"
              minLength={10}
              required
              autoComplete="new-password"
              value={values.password}
              onChange={(e) => setValues({ ...values, password: e.target.value })}
            />
          )}
        </Field>
        {add.error && <Trouble error={add.error} />}
        {add.isSuccess && (
          <p role="status" className="text-good">
            Added.
          </p>
        )}
        <Button main type="submit" disabled={add.isPending}>
          Add
        </Button>
      </form>
    </Card>
  );
}

function Tokens() {
  const tokens = useRead<Token[]>("/tokens");
  const [name, setName] = useState("");
  const add = useChange<{ name: string }, Token>("POST", "/tokens");
  const revoke = useChange<number>("DELETE", (id) => `/tokens/${id}`);
  return (
    <Card title="Your tokens" aside="keys for programs">
      <Loaded query={tokens} tall={3}>
        {(rows) => (
          <Table
            rows={rows.filter((t) => !t.revoked_at)}
            id={(r) => r.id}
            caption="Tokens"
            empty="None. The command line and other programs need one."
            columns={[
              {
                head: "Name",
                cell: (r) => (
                  <>
                    {r.name}
                    <div className="text-ink-3 font-mono text-sm">
                      {r.begins}… {moment(r.created_at)}
                    </div>
                  </>
                ),
              },
              {
                head: <span className="sr-only">Revoke</span>,
                cell: (r) => (
                  <LinkButton aria-label={`Revoke ${r.name}`} onClick={() => revoke.mutate(r.id)}>
                    revoke
                  </LinkButton>
                ),
              },
            ]}
          />
        )}
      </Loaded>
      {add.data?.secret && (
        <p role="status" className="bg-accent-soft my-2 rounded-md px-3 py-1.5 break-all">
          Keep it now, it is not shown again: <code className="font-mono text-sm">{add.data.secret}</code>
        </p>
      )}
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate({ name }, { onSuccess: () => setName("") });
        }}
      >
        <div className="flex-1">
          <Field label="What it is for">
            {(c) => <input className={c} required value={name} onChange={(e) => setName(e.target.value)} />}
          </Field>
        </div>
        <Button type="submit">Make a token</Button>
      </form>
    </Card>
  );
}
