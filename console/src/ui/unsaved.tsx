import { useBeforeUnload, useBlocker } from "react-router";
import { Dialog } from "./dialog";
import { Button } from "./parts";

/** Asks before a screen is left whose changes are not saved. */
export function Unsaved({ dirty, what }: { dirty: boolean; what: string }) {
  const leaving = useBlocker(dirty);
  useBeforeUnload((event) => dirty && event.preventDefault());
  return (
    <Dialog
      open={leaving.state === "blocked"}
      onOpenChange={(stay) => stay || leaving.reset?.()}
      title="Leave without saving?"
      description={what}
    >
      <div className="flex gap-2">
        <Button main onClick={() => leaving.reset?.()}>
          Stay here
        </Button>
        <Button onClick={() => leaving.proceed?.()}>Leave</Button>
      </div>
    </Dialog>
  );
}
