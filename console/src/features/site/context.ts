import { useOutletContext } from "react-router";
import type { Run, Site } from "../../api/types";

/** What every place of a site knows: the site, and its latest finished run (none yet: null). */
export type SiteContext = { site: Site; run: Run | null };
export const useSite = () => useOutletContext<SiteContext>();
