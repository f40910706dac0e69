import { createContext } from "react";
import { useOutletContext } from "react-router";
import type { Run, Site } from "../../api/types";

/** What every place of a site knows: the site, and the run that is shown: its latest finished one unless another was chosen (none yet: null). */
export type SiteContext = { site: Site; run: Run | null };
export const useSite = () => useOutletContext<SiteContext>();

/** Whether an earlier run is shown. To-dos and waivers are made of the latest one. */
export const EarlierRun = createContext(false);
