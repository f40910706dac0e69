import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { clients } from "../../api/queries/sites";
import { members } from "../../api/queries/team";
import type { InvitationBody, Member, Role } from "../../api/types";
import { plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";

const ROLES: readonly Role[] = ["owner", "lead", "analyst", "fixer", "guest"];
const choicesOf = (roles: readonly Role[]) => roles.map((role) => ({ value: role, label: role }));

/** Everybody with their load; owners change roles and switch members off. */
export function Members({ me }: { me: Member }) {
  const may = useMay();
  const found = useQuery(members.all());
  const [edited, setEdited] = useState<Member | null>(null);
  const again = useChange(members.inviteAgain());
  const say = useSay();
  return (
    <Card title="Members">
      {again.error && <Trouble error={again.error} />}
      <Loaded query={found}>
        {(rows) => (
          <>
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="Members"
              empty="Nobody yet."
              columns={[
                {
                  head: "Name",
                  sort: (r) => r.name,
                  cell: (r) => (
                    <>
                      <b className="font-semibold">{r.name}</b>
                      <div className="text-ink-3 text-sm">{r.email}</div>
                    </>
                  ),
                },
                {
                  head: "Role",
                  sort: (r) => r.role,
                  cell: (r) => (
                    <>
                      {r.role}
                      {!r.active && " (off)"}
                      {r.active && r.invited && <div className="text-ink-3 text-sm">invited, no password yet</div>}
                    </>
                  ),
                },
                { head: "To-dos", sort: (r) => r.open_todos, number: true, cell: (r) => r.open_todos },
                {
                  head: "Overdue",
                  sort: (r) => r.overdue_todos,
                  number: true,
                  cell: (r) => <span className={r.overdue_todos ? "text-bad" : ""}>{r.overdue_todos}</span>,
                },
                {
                  head: "Change",
                  quiet: true,
                  cell: (r) => (
                    <span className="flex gap-x-3">
                      {r.invited && r.active && may("invite_again") && (
                        <LinkButton
                          aria-label={`Invite ${r.name} again`}
                          onClick={() => again.mutate(r.id, { onSuccess: () => say(`${r.name} is sent a new link.`) })}
                        >
                          invite again
                        </LinkButton>
                      )}
                      {may("change_member") && (
                        <LinkButton aria-label={`Change ${r.name}`} onClick={() => setEdited(r)}>
                          change
                        </LinkButton>
                      )}
                    </span>
                  ),
                },
              ]}
            />
            <Dialog
              open={edited !== null}
              onOpenChange={(open) => !open && setEdited(null)}
              title={edited?.name ?? ""}
              description={edited?.email ?? ""}
            >
              {edited && (
                <Edit key={edited.id} me={me} member={edited} everybody={rows} close={() => setEdited(null)} />
              )}
            </Dialog>
          </>
        )}
      </Loaded>
    </Card>
  );
}

function Edit({
  me,
  member,
  everybody,
  close,
}: {
  me: Member;
  member: Member;
  everybody: readonly Member[];
  close: () => void;
}) {
  const role = useForm({ defaultValues: { role: member.role } });
  const off = useForm({ defaultValues: { heir: "" } });
  const change = useChange(members.change());
  const say = useSay();
  const told = (words: string) => ({
    onSuccess: () => {
      say(words);
      close();
    },
  });
  const heirs = everybody.filter((m) => m.active && m.role !== "guest" && m.id !== member.id);
  return (
    <div className="space-y-5">
      <Form
        form={role}
        error={change.error}
        onSend={(values) =>
          change.mutate({ id: member.id, role: values.role }, told(`${member.name} is ${values.role} now.`))
        }
      >
        <Field
          name="role"
          label="Role"
          kind="choice"
          choices={choicesOf(ROLES.filter((each) => each !== "guest" || member.role === "guest"))}
        />
        <Button type="submit" disabled={!role.formState.isDirty || change.isPending}>
          Change role
        </Button>
      </Form>
      {member.second_on && (
        <div className="space-y-2">
          <p>{member.name} signs in by two steps. Who has lost the device can be let in by the password alone.</p>
          <Button
            disabled={change.isPending}
            onClick={() =>
              change.mutate(
                { id: member.id, second_on: false },
                told(`${member.name} signs in by the password alone now.`),
              )
            }
          >
            Switch two-step sign-in off
          </Button>
        </div>
      )}
      {member.id !== me.id &&
        (member.active ? (
          <Form
            form={off}
            onSend={({ heir }) =>
              change.mutate(
                { id: member.id, active: false, ...(member.open_todos ? { hand_to: heir ? Number(heir) : null } : {}) },
                told(`${member.name} cannot sign in any more.`),
              )
            }
          >
            <p>
              Switched off, {member.name} cannot sign in any more; sessions and tokens end.
              {member.open_todos > 0 && ` ${plural(member.open_todos, "to-do")} must go to somebody.`}
            </p>
            {member.open_todos > 0 && (
              <Field
                name="heir"
                label="To-dos go to"
                kind="choice"
                choices={[
                  { value: "", label: "nobody" },
                  ...heirs.map((m) => ({ value: String(m.id), label: `${m.name} (${m.open_todos} open)` })),
                ]}
              />
            )}
            <Button type="submit" disabled={change.isPending}>
              Switch off
            </Button>
          </Form>
        ) : (
          <Button
            disabled={change.isPending}
            onClick={() => change.mutate({ id: member.id, active: true }, told(`${member.name} can sign in again.`))}
          >
            Switch on again
          </Button>
        ))}
    </div>
  );
}

/** Somebody new, who chooses a password by a link in a mail. */
export function Invite({ me }: { me: Member }) {
  const firms = useQuery(clients.all()).data ?? [];
  const form = useForm({ defaultValues: { name: "", email: "", role: "analyst" as Role, client: "" } });
  const invite = useChange(members.invite());
  const say = useSay();
  const guest = useWatch({ control: form.control, name: "role" }) === "guest";
  return (
    <Card title="Invite member">
      <Form
        form={form}
        error={invite.error}
        onSend={({ client, ...values }) => {
          const body: InvitationBody = { ...values, client_id: guest && client ? Number(client) : null };
          invite.mutate(body, {
            onSuccess: (member) => {
              say(`${member.name} is sent a link to choose a password.`);
              form.reset();
            },
          });
        }}
      >
        <Field name="name" label="Name" required />
        <Field name="email" label="Email" kind="email" required />
        <Field
          name="role"
          label="Role"
          kind="choice"
          choices={choicesOf(ROLES.filter((role) => role !== "owner" || me.role === "owner"))}
        />
        {guest && (
          <Field
            name="client"
            label="Guest of"
            kind="choice"
            required
            choices={firms.map((firm) => ({ value: String(firm.id), label: firm.name }))}
          />
        )}
        <Button main type="submit" disabled={invite.isPending}>
          Invite
        </Button>
      </Form>
    </Card>
  );
}
