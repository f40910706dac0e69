import { lazy, Suspense } from "react";

// Fetched when there is a text to show: most screens have none.
const Rendered = lazy(() => import("react-markdown"));
const TAGS = [
  "p",
  "strong",
  "em",
  "a",
  "ul",
  "ol",
  "li",
  "code",
  "pre",
  "blockquote",
  "h1",
  "h2",
  "h3",
  "h4",
  "hr",
  "br",
];

/** A text in Markdown (CommonMark): no images, no HTML of its own. Until it is there the text stands as it was typed. */
export function Markdown({ text }: { text: string }) {
  return (
    <Suspense fallback={<p className="whitespace-pre-wrap">{text}</p>}>
      <div className="markdown break-words">
        <Rendered
          allowedElements={TAGS}
          unwrapDisallowed
          components={{
            a: ({ href, children }) => (
              <a href={href} target="_blank" rel="noreferrer">
                {children}
              </a>
            ),
          }}
        >
          {text}
        </Rendered>
      </div>
    </Suspense>
  );
}
