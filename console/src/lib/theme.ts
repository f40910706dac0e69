/** Light or dark: as chosen here, else as the system says. */
const KEY = "hodcarrier-theme";

export function currentTheme(): "light" | "dark" {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function applyTheme(chosen?: "light" | "dark") {
  if (chosen) localStorage.setItem(KEY, chosen);
  document.documentElement.dataset.theme = currentTheme();
}
