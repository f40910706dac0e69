import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { session } from "../../api/queries/team";
import { Field, Form } from "../../ui/form";
import { Button, Title } from "../../ui/parts";
import { Mark } from "./mark";

export function SignIn() {
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const form = useForm({ defaultValues: { email: "", password: "", code: "" } });
  const [second, setSecond] = useState(false);
  const signIn = useChange(session.signIn());
  const back = query.get("back") ?? "/";
  return (
    <main className="grid min-h-screen place-items-center px-4">
      <Title of={["Sign in"]} />
      <Form
        form={form}
        error={signIn.error?.field === "code" ? null : signIn.error}
        className="bg-surface border-line w-full max-w-sm space-y-3.5 rounded-md border p-6"
        onSend={({ code, ...values }) =>
          signIn.mutate(second ? { ...values, code } : values, {
            onSuccess: () => void navigate(back.startsWith("/") ? back : "/", { replace: true }),
            onError: (problem) => problem.field === "code" && setSecond(true),
          })
        }
      >
        <div className="flex items-center gap-2">
          <Mark />
          <h1 className="text-[17px] font-semibold">Sign in to Hodcarrier</h1>
        </div>
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
      </Form>
    </main>
  );
}
