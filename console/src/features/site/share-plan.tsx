import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useChange } from "../../api/change";
import { plans, sites } from "../../api/queries/sites";
import { Field, Form } from "../../ui/form";
import { Button, Card } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSite } from "./context";

/** A plan taken over from another site, or in and out as text. */
export function ShareCard() {
  const { site } = useSite();
  const [toml, setToml] = useState<string | null>(null);
  const asText = useChange(plans.asText(site.id));
  return (
    <Card title="Copy or share the plan">
      <TakeOver />
      {toml === null ? (
        <div className="mt-2">
          <Button
            disabled={asText.isPending}
            onClick={() => asText.mutate(undefined, { onSuccess: (found) => setToml(found.toml) })}
          >
            As text (TOML)
          </Button>
          {asText.error && <Trouble error={asText.error} />}
        </div>
      ) : (
        <AsText toml={toml} close={() => setToml(null)} />
      )}
    </Card>
  );
}

function TakeOver() {
  const { site } = useSite();
  const all = useQuery(sites.all());
  const form = useForm({ defaultValues: { from_site: "" } });
  const chosen = useWatch({ control: form.control, name: "from_site" });
  const copy = useChange(plans.copy(site.id));
  const others = (all.data ?? []).filter((s) => s.id !== site.id);
  return (
    <Form form={form} error={copy.error} onSend={({ from_site }) => copy.mutate({ from_site: Number(from_site) })}>
      <div className="flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <Field
            name="from_site"
            label="From another site"
            kind="choice"
            placeholder="Choose a site"
            hint="Everything except its start URLs, path and host mapping"
            choices={others.map((s) => ({ value: String(s.id), label: s.host }))}
          />
        </div>
        <Button className="mt-5.5" type="submit" disabled={!chosen || copy.isPending}>
          Copy plan
        </Button>
      </div>
      {copy.isSuccess && <Done />}
    </Form>
  );
}

function AsText({ toml, close }: { toml: string; close: () => void }) {
  const { site } = useSite();
  const form = useForm({ defaultValues: { toml } });
  const replace = useChange(plans.replace(site.id));
  return (
    <Form form={form} error={replace.error} className="mt-3 space-y-2" onSend={(values) => replace.mutate(values)}>
      <Field
        name="toml"
        label="The plan as TOML"
        kind="long"
        rows={8}
        mono
        hint="Settings you leave out get their defaults"
      />
      <div className="flex gap-2">
        <Button type="submit" disabled={replace.isPending}>
          Replace the plan
        </Button>
        <Button onClick={close}>Close</Button>
      </div>
      {replace.isSuccess && <Done />}
    </Form>
  );
}

function Done() {
  return (
    <p role="status" className="text-good">
      Done. The form beside shows the new plan.
    </p>
  );
}
