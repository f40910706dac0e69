/** How reports look: the logo, colour, typeface and foot of the agency, or the logo and colour of a client. */
import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { brands } from "../../api/queries/reports";
import type { BrandBody } from "../../api/types";
import { base64Of } from "../../lib/base64";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

const TYPEFACES = [
  { value: "sans", label: "Sans serif" },
  { value: "serif", label: "Serif" },
] as const;

export function Brand({ clientId }: { clientId?: number }) {
  const may = useMay();
  const found = useQuery(brands.of(clientId));
  const change = useChange(brands.set(clientId));
  const mine = may(clientId === undefined ? "set_brand" : "set_client_brand");
  return (
    <Card
      title={clientId === undefined ? "The agency’s reports" : "Reports"}
      className={clientId === undefined ? "max-w-2xl" : ""}
    >
      <Loaded query={found}>
        {(brand) => (
          <>
            <Logo
              key={String(brand.has_logo)}
              src={
                brand.has_logo
                  ? clientId === undefined
                    ? "/api/v1/brand/logo"
                    : `/api/v1/clients/${clientId}/logo`
                  : ""
              }
              onChange={mine ? (logo) => change.mutate({ logo }) : undefined}
            />
            <p className="my-2.5 flex flex-wrap items-center gap-2">
              <span className="rounded-md px-3 py-1.5" style={{ background: brand.shown_colour, color: brand.ink }}>
                Cover
              </span>
              <span aria-hidden="true" className="h-1 w-24 rounded-full" style={{ background: brand.line_colour }} />
              <span className="text-ink-3 text-sm">
                {brand.colour ? brand.colour : `${brand.shown_colour}, the usual one`}
              </span>
            </p>
            {brand.remarks.map((remark) => (
              <p key={remark} className="text-ink-2 mb-2">
                {remark}
              </p>
            ))}
            {mine && <Edit clientId={clientId} brand={brand} />}
          </>
        )}
      </Loaded>
      {change.error && <Trouble error={change.error} />}
    </Card>
  );
}

function Edit({
  clientId,
  brand,
}: {
  clientId: number | undefined;
  brand: { colour: string; typeface: "sans" | "serif"; footer: string };
}) {
  const say = useSay();
  const change = useChange(brands.set(clientId));
  const form = useForm({
    values: { colour: brand.colour, typeface: brand.typeface, footer: brand.footer },
    resetOptions: { keepDirtyValues: true },
  });
  return (
    <Form
      form={form}
      error={change.error}
      onSend={({ colour, typeface, footer }) => {
        const body: BrandBody = { colour: colour.trim() };
        if (clientId === undefined) {
          body.typeface = TYPEFACES.find((each) => each.value === typeface)?.value ?? "sans";
          body.footer = footer;
        }
        change.mutate(body, { onSuccess: () => say("The brand is saved. New reports have it.") });
      }}
    >
      <Field name="colour" label="Colour" mono hint="Such as #0d5c5f; empty: the usual one" />
      {clientId === undefined && (
        <>
          <Field name="typeface" label="Typeface" kind="choice" choices={TYPEFACES} />
          <Field name="footer" label="Foot of every page" longest={200} hint="Empty: who the report is by and for" />
        </>
      )}
      <Button type="submit" disabled={change.isPending}>
        Save brand
      </Button>
    </Form>
  );
}

function Logo({ src, onChange }: { src: string; onChange: ((logo: string) => void) | undefined }) {
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (file) onChange?.(base64Of(await file.arrayBuffer()));
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      {src ? (
        <img src={src} alt="Logo" className="border-line max-h-16 max-w-56 rounded-md border bg-white p-2" />
      ) : (
        <p className="text-ink-3">No logo yet.</p>
      )}
      {onChange && (
        <>
          <input
            ref={input}
            type="file"
            accept=".svg,.png,image/svg+xml,image/png"
            aria-label="Logo, as SVG or PNG"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
          <Button onClick={() => input.current?.click()}>{src ? "Change logo…" : "Add logo…"}</Button>
          {src && <LinkButton onClick={() => onChange("")}>Remove logo</LinkButton>}
        </>
      )}
    </div>
  );
}
