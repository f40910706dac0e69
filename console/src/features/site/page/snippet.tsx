/** How the page stands in search results, on a phone and on a desktop; another title and description can be tried. */
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { pages } from "../../../api/queries/runs";
import type { Fitted, Page, SnippetSide } from "../../../api/types";
import { count } from "../../../lib/words";
import { controlClass, Labelled, Segments } from "../../../ui/controls";
import { Card, LinkButton } from "../../../ui/parts";
import { Bar } from "../../../ui/signs";

type Screen = "phone" | "desktop";
const WIDTH: Record<Screen, string> = { phone: "w-[360px] max-w-full", desktop: "max-w-[640px]" };

export function SnippetCard({ page }: { page: Page }) {
  const [screen, setScreen] = useState<Screen>("desktop");
  const [trying, setTrying] = useState(false);
  const own = { title: page.title ?? "", description: page.description ?? "" };
  const [typed, setTyped] = useState(own);
  const tried = useDeferredValue(trying ? typed : own);
  const found = useQuery(pages.snippet({ ...tried, url: page.url }));
  const side = found.data?.[screen];
  return (
    <Card
      title="In search results"
      aside={
        <Segments
          label="Screen"
          value={screen}
          onChange={setScreen}
          choices={[
            { value: "phone", label: "Phone" },
            { value: "desktop", label: "Desktop" },
          ]}
        />
      }
    >
      {side && <Result side={side} screen={screen} />}
      {trying && (
        <div className="mt-2.5 space-y-2">
          <Labelled label="Title">
            {(tied) => (
              <input
                {...tied}
                className={controlClass}
                value={typed.title}
                onChange={(event) => setTyped({ ...typed, title: event.target.value })}
              />
            )}
          </Labelled>
          <Labelled label="Meta description" hint="Nothing is changed on the site: copy what fits into your to-do.">
            {(tied) => (
              <textarea
                {...tied}
                rows={3}
                className={controlClass}
                value={typed.description}
                onChange={(event) => setTyped({ ...typed, description: event.target.value })}
              />
            )}
          </Labelled>
        </div>
      )}
      <p className="mt-2 flex gap-4 text-sm">
        <LinkButton onClick={() => setTrying(!trying)}>{trying ? "Show what is there" : "Try another"}</LinkButton>
        {trying && <LinkButton onClick={() => setTyped(own)}>Start again from what is there</LinkButton>}
      </p>
    </Card>
  );
}

function Result({ side, screen }: { side: SnippetSide; screen: Screen }) {
  return (
    <>
      <div
        className={`border-line overflow-x-auto rounded-md border px-4 py-3 ${WIDTH[screen]}`}
        style={{ fontFamily: "Arial, Liberation Sans, sans-serif" }}
        aria-live="polite"
        tabIndex={0}
        role="region"
        aria-label="The result as it would be shown"
      >
        <div className="text-ink-3 truncate text-sm">{side.path.join(" › ")}</div>
        <div className={`text-accent ${screen === "phone" ? "text-[20px] leading-6.5" : "text-[16px] leading-6"}`}>
          {side.title.lines.length === 0
            ? "(no title)"
            : side.title.lines.map((line, n) => (
                <div key={n} className="whitespace-nowrap">
                  {line}
                </div>
              ))}
        </div>
        <div className="text-ink-2 leading-5">
          {side.description.lines.length === 0
            ? "No description is set; search engines choose a passage from the page."
            : side.description.lines.map((line, n) => <div key={n}>{line}</div>)}
        </div>
      </div>
      <dl className="mt-2 grid max-w-[420px] grid-cols-[6rem_1fr_auto] items-center gap-x-3 gap-y-1 text-sm">
        <Room name="Title" text={side.title} />
        <Room name="Description" text={side.description} />
      </dl>
    </>
  );
}

function Room({ name, text }: { name: string; text: Fitted }) {
  const words = `${count(text.px)} of ${count(text.limit_px)} px`;
  return (
    <>
      <dt className="text-ink-3">{name}</dt>
      <dd>
        <Bar share={text.px / text.limit_px} label={words} />
      </dd>
      <dd className={text.cut ? "text-bad" : "text-ink-2"}>
        {words}
        {text.cut && ", cut"}
      </dd>
    </>
  );
}
