/** Figures and dates in words. Dates are in the viewer's zone, with the weekday. */

const whole = new Intl.NumberFormat("en-GB");
const one = new Intl.NumberFormat("en-GB", { minimumFractionDigits: 1, maximumFractionDigits: 1 });

export const count = (n: number | null | undefined) => (n === null || n === undefined ? "–" : whole.format(n));
export const points = (n: number | null | undefined) => (n === null || n === undefined ? "–" : one.format(n));
export const plural = (n: number, noun: string) =>
  `${whole.format(n)} ${noun}${n === 1 ? "" : /[xs]$/.test(noun) ? "es" : "s"}`;

export function signed(n: number | null | undefined): string {
  if (n === null || n === undefined) return "";
  const text = one.format(Math.abs(n));
  return text === "0.0" ? "0.0" : (n < 0 ? "−" : "+") + text;
}

/** A measure with its unit; points go without. Sizes stay in KiB, so that those of several sites can be subtracted. */
export function measure(n: number | null | undefined, unit: string): string {
  if (n === null || n === undefined) return "–";
  if (unit === "points") return one.format(n);
  if (unit === "%") return `${one.format(n)} %`;
  return unit === "bytes" ? `${one.format(n / 1024)} KiB` : `${whole.format(n)} ${unit}`.trimEnd();
}

/** How far a measure is ahead (+) or behind (−), with its unit. */
export function gap(n: number | null | undefined, unit: string): string {
  if (n === null || n === undefined) return "–";
  return n === 0 ? "level" : (n < 0 ? "−" : "+") + measure(Math.abs(n), unit);
}

export function gain(n: number): string {
  if (Math.abs(n) < 1e-9) return "none";
  return n >= 0.05 ? "+" + one.format(n) : "under 0.1";
}

export function day(text: string | null | undefined): string {
  if (!text) return "–";
  const date = new Date(text.length === 10 ? text + "T12:00:00" : text);
  const year = date.getFullYear() === new Date().getFullYear() ? undefined : "numeric";
  return date.toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short", year });
}

export function moment(text: string | null | undefined): string {
  if (!text) return "–";
  const date = new Date(text);
  return `${day(text)} ${date.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}

/** How long ago, in the largest whole unit: "new", "3 days", "5 weeks". */
export function age(since: string | null | undefined, now: Date): string {
  if (!since) return "";
  const days = Math.floor((now.getTime() - new Date(since).getTime()) / 86_400_000);
  if (days < 1) return "new";
  if (days < 14) return plural(days, "day");
  if (days < 90) return plural(Math.floor(days / 7), "week");
  return plural(Math.floor(days / 30), "month");
}

export function bytes(n: number | null | undefined): string {
  if (n === null || n === undefined) return "–";
  return n < 1024 ? `${n} B` : n < 1_048_576 ? `${one.format(n / 1024)} KiB` : `${one.format(n / 1_048_576)} MiB`;
}

/** Seconds in their two largest units. */
export function span(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  if (minutes >= 60) return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
  return minutes ? `${minutes} min ${Math.round(seconds % 60)} s` : `${Math.round(seconds)} s`;
}

export function duration(from: string | null | undefined, to: string | null | undefined): string {
  if (!from || !to) return "";
  const seconds = Math.max(0, Math.round((new Date(to).getTime() - new Date(from).getTime()) / 1000));
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}

/** The path of an address of this site; the whole address of any other. */
export function place(url: string, host: string): string {
  for (const scheme of ["https://", "http://"]) {
    if (url.startsWith(`${scheme}${host}/`))
      return scheme === "https://" ? url.slice(scheme.length + host.length) : url;
  }
  return url;
}

/** Shortened in the middle, so that both ends stay readable. */
export function shorten(text: string, chars: number): string {
  if (text.length <= chars) return text;
  const head = Math.ceil((chars - 1) * 0.45);
  return text.slice(0, head) + "…" + text.slice(text.length - (chars - 1 - head));
}

/** Whether every word that was typed is in one of the texts, whatever the case. */
export function holds(typed: string, ...texts: string[]): boolean {
  const all = texts.join(" ").toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}

/** Why two runs are not compared: how many of the larger one's pages both examined. */
export const tooFewShared = (shared: { pages: number; pages_base: number; pages_head: number }): string =>
  `both examined only ${count(shared.pages)} of ${count(Math.max(shared.pages_base, shared.pages_head))} pages`;
