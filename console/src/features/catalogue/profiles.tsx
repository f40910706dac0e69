import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { profiles } from "../../api/queries/sites";
import type { Profile } from "../../api/types";
import { plural } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { Table } from "../../ui/table";

export function ProfilesScreen() {
  const found = useQuery(profiles.all());
  const may = useMay();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Title of={["Profiles", "Catalogue"]} />
      <Heading over={<Link to="/catalogue">Catalogue</Link>} title="Profiles">
        {may("add_profile") && (
          <Button main onClick={() => setAdding(true)}>
            Add profile
          </Button>
        )}
      </Heading>
      <p className="text-ink-3">
        Sets of checks, limits and severities for sites of one kind, such as shops. Choose one in a site’s plan.
      </p>
      <Card className="mt-3.5">
        <Loaded query={found}>
          {(rows) => (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="Profiles"
              empty="No profiles yet. Every site uses the catalogue defaults and its own plan."
              columns={[
                {
                  head: "Profile",
                  cell: (r) => (
                    <>
                      <Link to={`/catalogue/profiles/${r.id}`} className="font-semibold">
                        {r.name}
                      </Link>
                      {r.note && <div className="text-ink-3 text-sm">{r.note}</div>}
                    </>
                  ),
                },
                { head: "What it changes", cell: inBrief },
                {
                  head: "Used by",
                  cell: (r) =>
                    r.sites.length === 0 ? (
                      <span className="text-ink-3">no site yet</span>
                    ) : (
                      r.sites.map((s, i) => (
                        <span key={s.id}>
                          {i > 0 && ", "}
                          <Link to={`/sites/${s.id}/plan`}>{s.host}</Link>
                        </span>
                      ))
                    ),
                },
              ]}
            />
          )}
        </Loaded>
      </Card>
      <Dialog
        open={adding}
        onOpenChange={setAdding}
        title="Add profile"
        description="It starts with the catalogue defaults; the next step is to choose what it changes."
      >
        <AddProfile />
      </Dialog>
    </>
  );
}

/** What a profile changes, counted. */
export function inBrief(profile: Pick<Profile, "checks_off" | "thresholds" | "severities">): string {
  const limits = Object.keys(profile.thresholds).length;
  const severities = Object.keys(profile.severities).length;
  const parts = [
    profile.checks_off.length > 0 && `${plural(profile.checks_off.length, "check")} off`,
    limits > 0 && plural(limits, "limit"),
    severities > 0 && `${severities} ${severities === 1 ? "severity" : "severities"}`,
  ].filter(Boolean);
  return parts.join(", ") || "nothing yet";
}

function AddProfile() {
  const navigate = useNavigate();
  const form = useForm({ defaultValues: { name: "", note: "" } });
  const add = useChange(profiles.add());
  return (
    <Form
      form={form}
      error={add.error}
      onSend={(values) => add.mutate(values, { onSuccess: (made) => void navigate(`/catalogue/profiles/${made.id}`) })}
    >
      <Field name="name" label="Name" required longest={100} hint="Such as Shop, Blog, Before launch" autoFocus />
      <Field name="note" label="What it is for" kind="long" rows={2} />
      <Button main type="submit" disabled={add.isPending}>
        Add profile
      </Button>
    </Form>
  );
}
