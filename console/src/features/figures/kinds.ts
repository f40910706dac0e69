import type { FigureKind, FigureLayout } from "../../api/types";

/** What figures are of, as people read it. */
export const KINDS: Record<FigureKind, string> = {
  search: "Search figures",
  visits: "Visits",
  positions: "Positions of keywords",
  links: "Links from other sites",
  site: "The site as a whole",
};
export const DAY_ORDERS: Record<NonNullable<FigureLayout["days"]>, string> = {
  ymd: "year, month, day",
  dmy: "day, month, year",
  mdy: "month, day, year",
  ydm: "year, day, month",
  words: "month in words",
};
export const MARKS: Record<NonNullable<FigureLayout["decimals"]>, string> = { point: "1.5", comma: "1,5" };
