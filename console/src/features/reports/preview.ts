/** What previews of reports and templates have in common. */

/** How long after the last key a preview is drawn anew. */
export const PAUSE_MS = 600;

export const previewClass = "border-line h-[60vh] w-full rounded-md border bg-white lg:h-[calc(100vh-9rem)]";
