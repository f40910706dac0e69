import { useState } from "react";
import type { AccessKinds } from "../../api/client";
import { useChange, useRead } from "../../api/hooks";
import { moment } from "../../lib/words";
import { Button, Card, Field, LinkButton, Loaded, Trouble } from "../../ui/parts";
import { useSite } from "./context";
import { write } from "./settings";

const EMPTY = { username: "", password: "", headers: "", cookies: "" };

/** What opens a site that is not public. It can be set and forgotten, never read. */
export function AccessCard() {
  const { site } = useSite();
  const kinds = useRead<AccessKinds>(`/sites/${site.id}/access`);
  const [open, setOpen] = useState(false);
  const [values, setValues] = useState(EMPTY);
  const save = useChange<Record<string, unknown>>("PUT", `/sites/${site.id}/access`);
  const forget = useChange<Record<string, never>>("DELETE", `/sites/${site.id}/access`);
  const field = (name: keyof typeof EMPTY) => ({
    value: values[name],
    onChange: (e: { target: { value: string } }) => setValues({ ...values, [name]: e.target.value }),
  });
  return (
    <Card
      title="Access"
      aside={kinds.data?.changed_at && <LinkButton onClick={() => forget.mutate({})}>forget</LinkButton>}
    >
      <Loaded query={kinds} tall={2}>
        {(data) => (
          <p>
            {data.changed_at
              ? `Kept since ${moment(data.changed_at)}: ${[data.password && "a password", ...data.headers.map((h) => `header ${h}`), ...data.cookies.map((c) => `cookie ${c}`)].filter(Boolean).join(", ") || "nothing"}.`
              : "The site is fetched as everybody sees it."}
          </p>
        )}
      </Loaded>
      {forget.error && <Trouble error={forget.error} />}
      {open ? (
        <form
          className="mt-2 space-y-3"
          autoComplete="off"
          onSubmit={(e) => {
            e.preventDefault();
            const body = {
              username: values.username,
              password: values.password,
              headers: write("pairs", values.headers),
              cookies: write("pairs", values.cookies),
            };
            save.mutate(body, {
              onSuccess: () => {
                setValues(EMPTY);
                setOpen(false);
              },
            });
          }}
        >
          <p className="text-ink-3 text-sm">
            Sealed when it is kept, sent to this site's own hosts alone, and never shown again. It replaces what is kept
            now.
          </p>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field label="Name">{(c) => <input className={c} autoComplete="off" {...field("username")} />}</Field>
            <Field label="Site password">
              {(c) => <input className={c} type="password" autoComplete="new-password" {...field("password")} />}
            </Field>
            <Field label="Request headers" hint="X-Preview = yes, one a line">
              {(c) => <textarea className={`${c} font-mono text-sm`} rows={2} {...field("headers")} />}
            </Field>
            <Field label="Cookies" hint="name = value, one a line">
              {(c) => <textarea className={`${c} font-mono text-sm`} rows={2} {...field("cookies")} />}
            </Field>
          </div>
          {save.error && <Trouble error={save.error} />}
          <div className="flex gap-2">
            <Button main type="submit" disabled={save.isPending}>
              Keep it
            </Button>
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </div>
        </form>
      ) : (
        <div className="mt-2">
          <Button onClick={() => setOpen(true)}>Set access</Button>
        </div>
      )}
    </Card>
  );
}
