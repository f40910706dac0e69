/** What steers a display or turns text round (controls, bidirectional embeddings, overrides and isolates) in texts from sites. */
const STEERING = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g;
const PICTURES = 0x2400;

function sign(character: string): string {
  const code = character.charCodeAt(0);
  if (code < 0x20) return String.fromCharCode(PICTURES + code);
  if (code === 0x7f) return "\u2421";
  return `<${code > 0xff ? "U+" : ""}${code
    .toString(16)
    .toUpperCase()
    .padStart(code > 0xff ? 4 : 2, "0")}>`;
}

/** A text with those characters made visible. */
export const visible = (text: string): string => text.replace(STEERING, sign);

/** Any value of the service with all its texts made visible. */
export function allVisible<T>(value: T): T {
  if (typeof value === "string") return visible(value) as T;
  if (Array.isArray(value)) return value.map(allVisible) as T;
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [visible(key), allVisible(each)])) as T;
}
