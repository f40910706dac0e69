import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useChange } from "../../api/change";
import { todoFiles } from "../../api/queries/work";
import type { Todo, TodoFile } from "../../api/types";
import { base64Of } from "../../lib/base64";
import { bytes, moment } from "../../lib/words";
import { Button, Card, LinkButton } from "../../ui/parts";
import { Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

export const LARGEST = 5 * 1024 * 1024;
const PICTURE = /^image\/(png|jpeg|gif|webp|avif)$/;
const address = (todo: Todo, file: TodoFile) => `/api/v1/todos/${todo.id}/files/${file.id}`;

/** Pictures and documents of a to-do; files are chosen, dropped here, or pasted. */
export function Attachments({ todo, mine }: { todo: Todo; mine: boolean }) {
  const found = useQuery(todoFiles.of(todo.id)).data ?? [];
  const say = useSay();
  const add = useChange(todoFiles.add(todo.id));
  const remove = useChange(todoFiles.remove(todo.id));
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = async (files: Iterable<File>) => {
    for (const file of files) {
      if (file.size > LARGEST) {
        say(`${file.name} is larger than 5 MiB. Attach a smaller file, or link to it in the note.`);
        continue;
      }
      const content = base64Of(await file.arrayBuffer());
      await add.mutateAsync({ name: file.name || "picture.png", content }).then(
        (made) => say(`Attached ${made.name}.`),
        () => undefined,
      );
    }
  };
  if (!mine && found.length === 0) return null;
  const trouble = add.error ?? remove.error;
  return (
    <div
      onDragOver={(event) => {
        if (!mine) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        if (mine) void take(event.dataTransfer.files);
      }}
      onPaste={(event) => {
        if (mine && event.clipboardData.files.length > 0) void take(event.clipboardData.files);
      }}
    >
      <Card title="Attachments" className={over ? "outline-accent outline-2" : ""}>
        <ul className="mb-2 space-y-2">
          {found.map((file) => (
            <li key={file.id} className="flex items-start justify-between gap-3">
              <span className="min-w-0">
                <a href={address(todo, file)} target="_blank" rel="noreferrer" className="wrap-anywhere">
                  {PICTURE.test(file.media) && (
                    <img
                      src={address(todo, file)}
                      alt=""
                      className="border-line mb-1 block max-h-40 rounded-sm border"
                    />
                  )}
                  {file.name}
                </a>
                <span className="text-ink-3 block text-sm">
                  {bytes(file.size)} · {file.author || "nobody"} · {moment(file.created_at)}
                </span>
              </span>
              {mine && (
                <LinkButton
                  aria-label={`Remove the attachment ${file.name}`}
                  onClick={() => remove.mutate(file.id, { onSuccess: () => say(`${file.name} is removed.`) })}
                >
                  remove
                </LinkButton>
              )}
            </li>
          ))}
        </ul>
        {mine && (
          <>
            <input
              ref={input}
              type="file"
              multiple
              className="sr-only"
              tabIndex={-1}
              aria-label="Files to attach"
              onChange={(event) => {
                void take([...(event.target.files ?? [])]);
                event.target.value = "";
              }}
            />
            <Button disabled={add.isPending} onClick={() => input.current?.click()}>
              {add.isPending ? "Attaching …" : "Attach files"}
            </Button>{" "}
            <span className="text-ink-3 text-sm">or drop them here; up to 5 MiB each</span>
          </>
        )}
        {trouble && <Trouble error={trouble} />}
      </Card>
    </div>
  );
}
