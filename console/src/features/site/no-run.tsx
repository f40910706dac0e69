import type { Site } from "../../api/types";
import { Card } from "../../ui/parts";

export function NoRun({ site }: { site: Site }) {
  return (
    <Card title="No finished audit yet">
      <p className="text-ink-2">
        {site.running
          ? "The first audit is under way. Its results appear here when it is done."
          : "Press “Run audit” to audit the site, or set a schedule under Plan."}
      </p>
    </Card>
  );
}
