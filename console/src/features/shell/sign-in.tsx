import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Member } from "../../api/client";
import { useChange } from "../../api/hooks";
import { Button, Field, Trouble } from "../../ui/parts";
import { Mark } from "./mark";

export function SignIn() {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const signIn = useChange<{ email: string; password: string }, Member>("POST", "/session");
  const back = query.get("back") ?? "/";
  return (
    <main className="grid min-h-screen place-items-center px-4">
      <form
        className="bg-surface border-line w-full max-w-sm space-y-3.5 rounded-md border p-6"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate(
            { email, password },
            { onSuccess: () => navigate(back.startsWith("/") ? back : "/", { replace: true }) },
          );
        }}
      >
        <div className="flex items-center gap-2">
          <Mark />
          <h1 className="text-[17px] font-semibold">Sign in to Hodcarrier</h1>
        </div>
        <Field label="E-mail address">
          {(c) => (
            <input
              className={c}
              type="email"
              autoComplete="username"
              required
              autoFocus
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        <Field label="Password">
          {(c) => (
            <input
              className={c}
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Field>
        {signIn.error && <Trouble error={signIn.error} />}
        <Button main type="submit" disabled={signIn.isPending}>
          Sign in
        </Button>
      </form>
    </main>
  );
}
