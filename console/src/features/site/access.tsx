import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { access } from "../../api/queries/sites";
import { moment } from "../../lib/words";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { useSite } from "./context";
import { pairs } from "./settings";

/** What opens a site that is not public. It can be set and forgotten, never read. */
export function AccessCard() {
  const { site } = useSite();
  const may = useMay();
  const say = useSay();
  const kinds = useQuery(access.of(site.id));
  const [open, setOpen] = useState(false);
  const forget = useChange(access.forget(site.id));
  return (
    <Card
      title="Access"
      aside={
        kinds.data?.changed_at &&
        may("remove_access") && (
          <LinkButton onClick={() => forget.mutate(undefined, { onSuccess: () => say("Forgotten.") })}>
            forget
          </LinkButton>
        )
      }
    >
      <Loaded query={kinds} tall={2}>
        {(data) => (
          <p>
            {data.changed_at
              ? `Kept since ${moment(data.changed_at)}: ${[data.password && "a password", ...data.headers.map((h) => `header ${h}`), ...data.cookies.map((c) => `cookie ${c}`)].filter(Boolean).join(", ") || "nothing"}. Sent to ${data.origins.join(", ")} alone.`
              : "Crawled as a visitor sees it: no sign-in, cookies or extra headers are sent."}
          </p>
        )}
      </Loaded>
      {forget.error && <Trouble error={forget.error} />}
      {open ? (
        <AccessForm close={() => setOpen(false)} />
      ) : (
        may("set_access") && (
          <div className="mt-2">
            <Button onClick={() => setOpen(true)}>Set access</Button>
          </div>
        )
      )}
    </Card>
  );
}

function AccessForm({ close }: { close: () => void }) {
  const { site } = useSite();
  const form = useForm({ defaultValues: { username: "", password: "", headers: "", cookies: "" } });
  const save = useChange(access.set(site.id));
  return (
    <Form
      form={form}
      error={save.error}
      className="mt-2 space-y-3"
      autoComplete="off"
      onSend={({ username, password, headers, cookies }) =>
        save.mutate({ username, password, headers: pairs(headers), cookies: pairs(cookies) }, { onSuccess: close })
      }
    >
      <p className="text-ink-3 text-sm">
        Sealed when it is kept, sent to this site's own hosts alone, and never shown again. It replaces what is kept
        now.
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field name="username" label="Name" autoComplete="off" />
        <Field name="password" label="Site password" kind="password" autoComplete="new-password" />
        <Field name="headers" label="Request headers" kind="long" rows={2} mono hint="X-Preview = yes, one per line" />
        <Field name="cookies" label="Cookies" kind="long" rows={2} mono hint="name = value, one per line" />
      </div>
      <div className="flex gap-2">
        <Button main type="submit" disabled={save.isPending}>
          Keep it
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
