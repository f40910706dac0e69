import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import type { Member } from "../../api/types";
import { Field, Form } from "../../ui/form";
import { Button, Card } from "../../ui/parts";
import { useSay } from "../../ui/toast";

/** Signing in by two steps: set up with an authenticator, and switched off with the password. */
export function SecondStep({ me }: { me: Member }) {
  const password = useForm({ defaultValues: { password: "" } });
  const code = useForm({ defaultValues: { code: "" } });
  const begin = useChange(session.beginSecond());
  const confirm = useChange(session.confirmSecond());
  const end = useChange(session.endSecond());
  const say = useSay();
  if (confirm.data)
    return (
      <Card title="Two-step sign-in" aside="on">
        <p role="status" className="mb-2">
          It is on. Keep these recovery codes where you keep passwords: each opens your account once when the device is
          not at hand. They are not shown again.
        </p>
        <ul className="bg-sunk grid grid-cols-2 gap-x-4 rounded-md px-3 py-2 font-mono text-sm">
          {confirm.data.codes.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </ul>
        <Button className="mt-2.5" onClick={() => confirm.reset()}>
          I have kept them
        </Button>
      </Card>
    );
  if (begin.data && !me.second_on)
    return (
      <Card title="Two-step sign-in" aside="off">
        <Form form={code} error={confirm.error} onSend={(values) => confirm.mutate(values)}>
          <p>
            Scan this QR code with your authenticator app, or enter the secret by hand. Then enter the code it shows.
          </p>
          <img src={begin.data.picture} alt="QR code with the secret" className="rounded-md bg-white" width={180} />
          <code className="block font-mono text-sm break-all">{begin.data.secret}</code>
          <Field name="code" label="Code" autoComplete="one-time-code" required />
          <Button main type="submit" disabled={confirm.isPending}>
            Switch on
          </Button>
        </Form>
      </Card>
    );
  const change = me.second_on ? end : begin;
  return (
    <Card title="Two-step sign-in" aside={me.second_on ? "on" : "off"}>
      <Form
        form={password}
        error={change.error}
        onSend={(values) => {
          if (me.second_on)
            end.mutate(values, {
              onSuccess: () => {
                begin.reset();
                password.reset();
                say("You sign in by the password alone now.");
              },
            });
          else begin.mutate(values, { onSuccess: () => password.reset() });
        }}
      >
        <p>
          {me.second_on
            ? "Signing in takes your password and a code from your authenticator app."
            : "With it on, signing in takes your password and a code from an authenticator app."}
        </p>
        <Field
          name="password"
          label="Your password, once more"
          kind="password"
          required
          autoComplete="current-password"
        />
        <Button type="submit" disabled={change.isPending}>
          {me.second_on ? "Switch off" : "Set up"}
        </Button>
      </Form>
    </Card>
  );
}
