/** What has been typed of a name after the last @, while it may still become one; null when nobody is being mentioned. */
export function beingMentioned(text: string): string | null {
  return BEGUN.exec(text)?.groups?.name ?? null;
}

/** The text with the name that was begun written out. */
export function withMention(text: string, name: string): string {
  return text.replace(BEGUN, (_all, before: string) => `${before}@${name} `);
}

const BEGUN = /(?<before>^|[^\p{L}\p{N}@.])@(?<name>[\p{L}\p{N}'-]*(?: [\p{L}\p{N}'-]*){0,2})$/u;
