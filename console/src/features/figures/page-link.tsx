import { Link } from "react-router";
import type { Site } from "../../api/types";
import { place } from "../../lib/words";

/** The way to a page of a site, by its path. */
export function PageLink({ site, url }: { site: Site; url: string }) {
  return <Link to={`/sites/${site.id}/page?url=${encodeURIComponent(url)}`}>{place(url, site.host)}</Link>;
}
