/** The places of one site: the part of the address, the name, and the operation that must be permitted to see it. */
export const SITE_PLACES = [
  ["", "Summary", "get_run"],
  ["findings", "Findings", "list_checks"],
  ["inventory", "Inventory", "list_inventory"],
  ["structure", "Structure", "get_structure"],
  ["changes", "Changes", "compare_runs"],
  ["trend", "Trend", "get_trend"],
  ["figures", "Figures", "get_search_figures"],
  ["review", "Review", "list_sheets"],
  ["plan", "Plan", "get_plan"],
] as const;
