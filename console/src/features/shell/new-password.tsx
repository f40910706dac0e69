import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field, Form } from "../../ui/form";
import { Button, Title } from "../../ui/parts";
import { Mark } from "./mark";

/** A password is chosen with the link of a mail; its secret stands behind the number sign, which no server is told. */
export function NewPassword() {
  const navigate = useNavigate();
  const secret = window.location.hash.slice(1);
  const form = useForm({ defaultValues: { password: "" } });
  const save = useChange(session.setPassword());
  return (
    <main className="grid min-h-screen place-items-center px-4">
      <Title of={["New password"]} />
      <Form
        form={form}
        error={save.error}
        className="bg-surface border-line w-full max-w-sm space-y-3.5 rounded-md border p-6"
        onSend={({ password }) =>
          save.mutate({ secret, password }, { onSuccess: () => void navigate("/", { replace: true }) })
        }
      >
        <div className="flex items-center gap-2">
          <Mark />
          <h1 className="text-[17px] font-semibold">Choose your password</h1>
        </div>
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
          <Link to="/sign-in">To signing in</Link>
        </p>
      </Form>
    </main>
  );
}
