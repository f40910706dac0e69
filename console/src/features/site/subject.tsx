import { Link } from "react-router";
import { place } from "../../lib/words";
import { Address } from "../../ui/parts";

/** What a finding is on: a page, with a link to it, or the site as a whole. */
export function Subject({
  siteId,
  host,
  subject,
  chars,
}: {
  siteId: number;
  host: string;
  subject: string;
  chars: number;
}) {
  if (subject === "site") return "the whole site";
  return (
    <Link to={`/sites/${siteId}/page?url=${encodeURIComponent(subject)}`}>
      <Address text={place(subject, host)} chars={chars} />
    </Link>
  );
}
