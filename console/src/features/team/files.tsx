import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { retention } from "../../api/queries/team";
import { bytes, count, day } from "../../lib/words";
import { Dialog } from "../../ui/dialog";
import { Button, Card } from "../../ui/parts";
import { Labelled, Select } from "../../ui/controls";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

const RULES = [
  { value: "8", label: "8 weeks" },
  { value: "13", label: "13 weeks" },
  { value: "26", label: "26 weeks" },
  { value: "52", label: "52 weeks" },
];

function files(n: number): string {
  return `${count(n)} file${n === 1 ? "" : "s"}`;
}

/** What run files take, and what a rule of retention would free before anything is removed. */
export function RunFiles() {
  const may = useMay();
  const say = useSay();
  const [weeks, setWeeks] = useState("26");
  const [asking, setAsking] = useState(false);
  const found = useQuery(retention.of(Number(weeks)));
  const apply = useChange(retention.apply());
  return (
    <Card title="Run files">
      <Labelled label="Keep all runs of the last">
        {(tied) => <Select {...tied} value={weeks} onChange={setWeeks} choices={RULES} />}
      </Labelled>
      <Loaded query={found} tall={2}>
        {(rule) => {
          const gone = `${files(rule.removable.length)} (${bytes(rule.removable_bytes)})`;
          const first = rule.removable[0];
          return (
            <>
              <p className="mt-2">
                {first
                  ? `${gone} would go, the oldest of ${first.site_host} from ${day(first.requested_at)}. ${files(rule.kept)} (${bytes(rule.kept_bytes)}) stay.`
                  : `This rule lets no file go: ${files(rule.kept)} (${bytes(rule.kept_bytes)}) stay.`}
              </p>
              <p className="text-ink-3 text-sm">
                Older runs are kept once a month, and always the first, the last two and those that reports compare. A
                run without its file keeps its figures.
              </p>
              {first && may("apply_retention") && (
                <Button className="mt-2" onClick={() => setAsking(true)}>
                  Remove {gone}
                </Button>
              )}
              {apply.error && <Trouble error={apply.error} />}
              <Dialog
                open={asking}
                onOpenChange={setAsking}
                title={`Remove ${gone}?`}
                description="The pages and findings of these runs cannot be opened again. Their figures stay."
              >
                <Button
                  main
                  disabled={apply.isPending}
                  onClick={() =>
                    apply.mutate(Number(weeks), {
                      onSuccess: (done) => {
                        setAsking(false);
                        say(`${files(done.removable.length)} removed.`);
                      },
                    })
                  }
                >
                  Remove
                </Button>
              </Dialog>
            </>
          );
        }}
      </Loaded>
    </Card>
  );
}
