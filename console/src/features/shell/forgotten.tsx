import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field, Form } from "../../ui/form";
import { Button, Title } from "../../ui/parts";
import { Mark } from "./mark";

/** Whoever has forgotten a password is sent a link to a new one. */
export function Forgotten() {
  const form = useForm({ defaultValues: { email: "" } });
  const ask = useChange(session.askReset());
  return (
    <main className="grid min-h-screen place-items-center px-4">
      <Title of={["Forgotten password"]} />
      <Form
        form={form}
        error={ask.error}
        className="bg-surface border-line w-full max-w-sm space-y-3.5 rounded-md border p-6"
        onSend={(values) => ask.mutate(values)}
      >
        <div className="flex items-center gap-2">
          <Mark />
          <h1 className="text-[17px] font-semibold">Forgotten password</h1>
        </div>
        {ask.isSuccess ? (
          <p role="status">
            If there is a member with this address, a mail with a link is on its way. The link is good for two hours.
          </p>
        ) : (
          <>
            <Field name="email" label="Email" kind="email" autoComplete="username" required autoFocus />
            <Button main type="submit" disabled={ask.isPending}>
              Send link
            </Button>
          </>
        )}
        <p>
          <Link to="/sign-in">To signing in</Link>
        </p>
      </Form>
    </main>
  );
}
