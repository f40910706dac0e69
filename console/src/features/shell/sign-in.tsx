import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field } from "../../ui/form";
import { Button } from "../../ui/parts";
import { Entry } from "./entry";

export function SignIn() {
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const form = useForm({ defaultValues: { email: "", password: "", code: "" } });
  const [second, setSecond] = useState(false);
  const signIn = useChange(session.signIn());
  const back = query.get("back") ?? "/";
  return (
    <Entry
      title="Sign in"
      heading="Sign in to Hodcarrier"
      form={form}
      error={signIn.error?.field === "code" ? null : signIn.error}
      onSend={({ code, ...values }) =>
        signIn.mutate(second ? { ...values, code } : values, {
          onSuccess: () => void navigate(back.startsWith("/") ? back : "/", { replace: true }),
          onError: (problem) => problem.field === "code" && setSecond(true),
        })
      }
    >
      <Field name="email" label="Email" kind="email" autoComplete="username" required autoFocus />
      <Field name="password" label="Password" kind="password" autoComplete="current-password" required />
      {second && (
        <Field
          name="code"
          label="Code"
          hint="What your authenticator shows now, or a recovery code"
          autoComplete="one-time-code"
          required
          autoFocus
        />
      )}
      <Button main type="submit" disabled={signIn.isPending}>
        Sign in
      </Button>
      <p>
        <Link to="/forgotten">Forgotten your password?</Link>
      </p>
    </Entry>
  );
}
