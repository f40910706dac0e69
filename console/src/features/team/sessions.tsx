import { useQuery } from "@tanstack/react-query";
import { useChange } from "../../api/change";
import { sessions } from "../../api/queries/team";
import { moment } from "../../lib/words";
import { Card, LinkButton } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";

/** Where one is signed in. */
export function Sessions() {
  const found = useQuery(sessions.all());
  const end = useChange(sessions.end());
  const say = useSay();
  return (
    <Card title="Your sessions" aside="where you are signed in">
      {end.error && <Trouble error={end.error} />}
      <Loaded query={found} tall={2}>
        {(rows) => (
          <ul>
            {rows.map((row) => (
              <li key={row.id} className="border-line flex gap-3 border-b py-1.5 last:border-b-0">
                <span className="min-w-0 flex-1">
                  <span className="break-words">{row.program || "an unknown browser"}</span>
                  <span className="text-ink-3 block text-sm">
                    {row.current ? "this one" : row.seen_at ? `last used ${moment(row.seen_at)}` : "not used lately"}
                    {row.created_at && `, since ${moment(row.created_at)}`}
                  </span>
                </span>
                {!row.current && (
                  <LinkButton
                    aria-label={`End the session in ${row.program || "an unknown browser"}`}
                    onClick={() => end.mutate(row.id, { onSuccess: () => say("The session is ended.") })}
                  >
                    end
                  </LinkButton>
                )}
              </li>
            ))}
          </ul>
        )}
      </Loaded>
    </Card>
  );
}
