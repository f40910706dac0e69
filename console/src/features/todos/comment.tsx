import { useQuery } from "@tanstack/react-query";
import { useForm, useWatch } from "react-hook-form";
import { members } from "../../api/queries/team";
import { Field, Form } from "../../ui/form";
import { Button, LinkButton } from "../../ui/parts";
import type { Send } from "./detail";
import { beingMentioned, withMention } from "./mentions";

/** A comment on a to-do. Whoever is called by name with @ in front is told by mail. */
export function Comment({ send }: { send: Send }) {
  const form = useForm({ defaultValues: { comment: "" } });
  const text = useWatch({ control: form.control, name: "comment" });
  const everybody = useQuery(members.all()).data ?? [];
  const begun = beingMentioned(text);
  const near =
    begun === null
      ? []
      : everybody.filter((m) => m.active && m.role !== "guest" && m.name.toLowerCase().startsWith(begun.toLowerCase()));
  return (
    <Form form={form} className="mt-2 space-y-2" onSend={(values) => send(values, { onSuccess: () => form.reset() })}>
      <Field name="comment" label="Comment" kind="long" rows={2} required hint="Mention a colleague with @name" />
      {near.length > 0 && (
        <div className="flex flex-wrap gap-x-3" role="group" aria-label="Who to mention">
          {near.slice(0, 6).map((member) => (
            <LinkButton
              key={member.id}
              onClick={() => {
                form.setValue("comment", withMention(text, member.name));
                form.setFocus("comment");
              }}
            >
              @{member.name}
            </LinkButton>
          ))}
        </div>
      )}
      <Button type="submit">Comment</Button>
    </Form>
  );
}
