import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field } from "../../ui/form";
import { Button } from "../../ui/parts";
import { Entry } from "./entry";

/** A password is chosen with the link of a mail; its secret stands behind the number sign, which no server is told. */
export function NewPassword() {
  const navigate = useNavigate();
  const secret = window.location.hash.slice(1);
  const form = useForm({ defaultValues: { password: "" } });
  const save = useChange(session.setPassword());
  return (
    <Entry
      title="New password"
      heading="Choose your password"
      form={form}
      error={save.error}
      onSend={({ password }) =>
        save.mutate({ secret, password }, { onSuccess: () => void navigate("/", { replace: true }) })
      }
    >
      {secret ? (
        <>
          <Field
            name="password"
            label="New password"
            kind="password"
            hint="10 characters or more; a few unrelated words are easy to keep"
            required
            shortest={10}
            autoComplete="new-password"
            autoFocus
          />
          <Button main type="submit" disabled={save.isPending}>
            Save and sign in
          </Button>
        </>
      ) : (
        <p>The address is not complete. Open the link in the mail again, all of it.</p>
      )}
      <p>
        <Link to="/sign-in">Back to sign-in</Link>
      </p>
    </Entry>
  );
}
