import { useForm } from "react-hook-form";
import { useOutletContext, useSearchParams } from "react-router";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { session } from "../../api/queries/team";
import type { Member } from "../../api/types";
import { DATE_ORDERS, datePattern } from "../../lib/dates";
import { Tabs } from "../../ui/controls";
import { Field, Form } from "../../ui/form";
import { Button, Card, Heading, Title } from "../../ui/parts";
import { useSay } from "../../ui/toast";
import { RunFiles } from "./files";
import { ChangesLog } from "./log";
import { Mails } from "./mails";
import { Invite, Members } from "./members";
import { SecondStep } from "./second-step";
import { Sessions } from "./sessions";
import { Feeds } from "./feeds";
import { YourMails } from "./your-mails";
import { Webhooks } from "./webhooks";
import { Tokens, TokensOfEverybody } from "./tokens";

const VIEWS = ["members", "you", "deliveries", "service", "log"] as const;
const LABELS = {
  members: "Members",
  you: "You",
  deliveries: "Mails & webhooks",
  service: "Run files & access",
  log: "Log",
};

export function TeamScreen() {
  const me = useOutletContext<Member>();
  const may = useMay();
  const [params, setParams] = useSearchParams();
  const open = {
    members: true,
    you: true,
    deliveries: may("list_deliveries"),
    service: may("get_retention") || may("list_all_tokens"),
    log: may("list_log"),
  };
  const views = VIEWS.filter((view) => open[view]);
  const view = views.find((each) => each === params.get("tab")) ?? "members";
  return (
    <>
      <Title of={["Team & settings"]} />
      <Heading title="Team & settings" />
      <div className="mt-3">
        <Tabs
          label="Team & settings"
          value={view}
          onChange={(tab) => setParams(tab === "members" ? {} : { tab })}
          views={views.map((each) => ({ value: each, label: LABELS[each] }))}
        >
          <div
            className={`grid items-start gap-4 ${view === "deliveries" ? "xl:grid-cols-2" : "lg:grid-cols-[1.6fr_1fr]"}`}
          >
            {view === "members" && (
              <>
                <Members me={me} />
                {may("invite_member") && <Invite me={me} />}
              </>
            )}
            {view === "you" && (
              <>
                <div className="min-w-0 space-y-3.5">
                  {may("list_todos") && <YourMails me={me} />}
                  {may("list_feeds") && <Feeds />}
                  {may("list_tokens") && <Tokens />}
                </div>
                <div className="space-y-3.5">
                  <Profile me={me} />
                  <Password />
                  <SecondStep me={me} />
                  <Sessions />
                </div>
              </>
            )}
            {view === "deliveries" && (
              <>
                {may("list_webhooks") && <Webhooks />}
                <Mails />
              </>
            )}
            {view === "service" && (
              <>
                {may("get_retention") && <RunFiles />}
                {may("list_all_tokens") && <TokensOfEverybody />}
              </>
            )}
          </div>
          {view === "log" && <ChangesLog />}
        </Tabs>
      </div>
    </>
  );
}

function Profile({ me }: { me: Member }) {
  // What was saved comes back as what the form begins with.
  const form = useForm({ values: { name: me.name, date_order: me.date_order } });
  const save = useChange(session.change());
  const say = useSay();
  return (
    <Card title="You">
      <Form
        form={form}
        error={save.error}
        onSend={(values) => save.mutate(values, { onSuccess: () => say("Your settings are saved.") })}
      >
        <Field name="name" label="Your name" required />
        <Field
          name="date_order"
          label="Date format"
          kind="choice"
          choices={DATE_ORDERS.map((order) => ({ value: order, label: datePattern(order) }))}
        />
        <Button type="submit" disabled={save.isPending || !form.formState.isDirty}>
          Save
        </Button>
      </Form>
    </Card>
  );
}

function Password() {
  const form = useForm({ defaultValues: { current_password: "", password: "" } });
  const save = useChange(session.change());
  const say = useSay();
  return (
    <Card title="Your password" aside="a new one ends all your sessions and tokens">
      <Form
        form={form}
        error={save.error}
        onSend={(values) =>
          save.mutate(values, {
            onSuccess: () => {
              form.reset();
              say("Your password is changed. You are signed out everywhere else.");
            },
          })
        }
      >
        <Field
          name="current_password"
          label="Current password"
          kind="password"
          required
          autoComplete="current-password"
        />
        <Field
          name="password"
          label="New password"
          kind="password"
          hint="10 characters or more; a few unrelated words are easy to keep"
          required
          shortest={10}
          autoComplete="new-password"
        />
        <Button type="submit" disabled={save.isPending}>
          Change password
        </Button>
      </Form>
    </Card>
  );
}
