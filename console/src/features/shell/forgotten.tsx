import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field } from "../../ui/form";
import { Button } from "../../ui/parts";
import { Entry } from "./entry";

/** Whoever has forgotten a password is sent a link to a new one. */
export function Forgotten() {
  const form = useForm({ defaultValues: { email: "" } });
  const ask = useChange(session.askReset());
  return (
    <Entry
      title="Forgotten password"
      heading="Forgotten password"
      form={form}
      error={ask.error}
      onSend={(values) => ask.mutate(values)}
    >
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
        <Link to="/sign-in">Back to sign-in</Link>
      </p>
    </Entry>
  );
}
