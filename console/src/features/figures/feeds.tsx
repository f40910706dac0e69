/** Addresses that are asked for figures every day, and what registries say of the domain. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { figures } from "../../api/queries/figures";
import type { DomainHistory, FigureFeed, Site } from "../../api/types";
import { count, day, moment } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Field, Form } from "../../ui/form";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { Table } from "../../ui/table";
import { useSay } from "../../ui/toast";
import { KINDS } from "./kinds";

export function Feeds({ site }: { site: Site }) {
  const may = useMay();
  const found = useQuery(figures.feeds(site.id));
  const [open, setOpen] = useState(false);
  return (
    <Card
      title="Feeds"
      aside={
        may("add_figure_feed") && (
          <Button onClick={() => setOpen(true)} aria-haspopup="dialog">
            Add a feed…
          </Button>
        )
      }
    >
      <Loaded query={found} tall={2}>
        {(rows) =>
          rows.length === 0 ? (
            <p className="text-ink-2 max-w-prose">
              No feeds. A feed is an address that is asked for figures every day, so that nobody has to import tables;
              docs/figure-feed.md says what it has to answer.
            </p>
          ) : (
            <div className="divide-line divide-y">
              {rows.map((feed) => (
                <Feed key={feed.id} feed={feed} />
              ))}
            </div>
          )
        }
      </Loaded>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Add a feed"
        description="It is asked at once, and then every day. Its token is kept sealed and never shown again."
      >
        <AddFeed site={site} done={() => setOpen(false)} />
      </Dialog>
    </Card>
  );
}

function Feed({ feed }: { feed: FigureFeed }) {
  const may = useMay();
  const say = useSay();
  const change = useChange(figures.changeFeed());
  const remove = useChange(figures.removeFeed());
  const pull = useChange(figures.pullFeed());
  const error = change.error ?? remove.error ?? pull.error;
  return (
    <section aria-label={feed.name} className="py-2 first:pt-0 last:pb-0">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="font-semibold">{feed.name}</h3>
        {may("change_figure_feed") && (
          <span className="flex flex-wrap gap-x-3 text-sm">
            <LinkButton
              disabled={!feed.active}
              onClick={() => pull.mutate(feed.id, { onSuccess: () => say("The feed is asked now.") })}
            >
              ask now
            </LinkButton>
            <LinkButton onClick={() => change.mutate({ id: feed.id, active: !feed.active })}>
              {feed.active ? "switch off" : "switch on"}
            </LinkButton>
            <LinkButton
              title="What it brought stays"
              onClick={() => remove.mutate(feed.id, { onSuccess: () => say(`${feed.name} is removed.`) })}
            >
              remove
            </LinkButton>
          </span>
        )}
      </div>
      <p className={feed.state === "failing" || feed.state === "stale" ? "text-bad" : ""}>{feed.sentence}</p>
      <p className="text-ink-3 mb-1.5 text-sm break-all">
        {feed.url}
        {feed.active && <> · asked next {moment(feed.next_at)}</>}
      </p>
      {error && <Trouble error={error} />}
      {(feed.offers ?? []).length > 0 && (
        <Table
          rows={feed.offers ?? []}
          id={(row) => row.kind}
          caption={`What ${feed.name} has`}
          empty=""
          columns={[
            {
              head: "Figures",
              cell: (row) => (
                <>
                  {KINDS[row.kind]} {!row.wanted && <span className="text-ink-3 text-sm">not taken</span>}
                </>
              ),
            },
            { head: "From", cell: (row) => day(row.first) },
            { head: "To", cell: (row) => day(row.last) },
            { head: "Taken in until", cell: (row) => day(row.until) },
            { head: "Rows", number: true, cell: (row) => count(row.rows) },
          ]}
        />
      )}
    </section>
  );
}

function AddFeed({ site, done }: { site: Site; done: () => void }) {
  const say = useSay();
  const add = useChange(figures.addFeed(site.id));
  const form = useForm({ defaultValues: { url: "", name: "", token: "" } });
  return (
    <Form
      form={form}
      error={add.error}
      autoComplete="off"
      onSend={(values) =>
        add.mutate(
          { ...values, token: values.token.trim(), kinds: [] },
          {
            onSuccess: (feed) => {
              say(`${feed.name} is asked now.`);
              done();
            },
          },
        )
      }
    >
      <Field name="url" label="Address" placeholder="https://" required />
      <Field name="name" label="Name" placeholder="Figure feed" />
      <Field name="token" label="Token" kind="password" />
      <Button main type="submit" disabled={add.isPending}>
        Add feed
      </Button>
    </Form>
  );
}

export function Domain({ site }: { site: Site }) {
  const found = useQuery(figures.domain(site.id));
  return (
    <Card title="Domain">
      <Loaded query={found} tall={2}>
        {(history) => <Registered history={history} />}
      </Loaded>
    </Card>
  );
}

function Registered({ history }: { history: DomainHistory }) {
  const rows = [...(history.now ? [history.now] : []), ...(history.before ?? [])];
  return (
    <>
      <p>{history.sentence}</p>
      {history.now && history.error && (
        <p className="text-bad text-sm">The registry could not be asked last: {history.error}</p>
      )}
      {rows.length > 0 && (
        <Table
          rows={rows}
          id={(row) => row.first_seen}
          caption="What the registry said"
          empty=""
          columns={[
            { head: "Registrar", cell: (row) => row.registrar },
            { head: "Registered", cell: (row) => day(row.created) },
            { head: "Ends", cell: (row) => day(row.expires) },
            { head: "Name servers", className: "wrap-anywhere", cell: (row) => (row.name_servers ?? []).join(", ") },
            { head: "Said from", cell: (row) => day(row.first_seen) },
            { head: "to", cell: (row) => day(row.last_seen) },
          ]}
        />
      )}
    </>
  );
}
