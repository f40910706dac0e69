/** The places of one site: the part of the address and the name. */
export const SITE_PLACES = [
  ["", "Summary"],
  ["findings", "Findings"],
  ["inventory", "Inventory"],
  ["changes", "Changes"],
  ["trend", "Trend"],
  ["plan", "Plan"],
] as const;
