import type { ReactNode } from "react";
import { Link } from "react-router";
import { useMay } from "../../api/hooks";
import { Card } from "../../ui/parts";

/** What stands in place of figures that nobody has imported. */
export function NothingYet({ title, children }: { title: string; children: ReactNode }) {
  const may = useMay();
  return (
    <Card title={title}>
      <p className="max-w-prose">
        {children} {may("add_figure_file") && <Link to="?show=tables">Import a table</Link>}
      </p>
    </Card>
  );
}
