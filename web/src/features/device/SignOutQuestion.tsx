import { AlertDialog } from "radix-ui";
import { Button } from "../../primitives/Button";
import { queue, useQueue, useSummary } from "../../queue";
import { exportEntries } from "./export";
import { entries } from "./words";

interface Props {
  onClose: () => void;
  onSignOut: () => void;
}

/** Entries wait: send them, leave them locked, take them along as a file, or stay. */
export default function SignOutQuestion({ onClose, onSignOut }: Props) {
  const state = useQueue();
  const { waiting, aside } = useSummary();
  const own = state.held.map((one) => one.entry).filter((one) => one.author.id === state.person?.id);
  const sent = waiting + aside === 0;
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <AlertDialog.Content className="sheet fixed top-1/2 left-1/2 z-50 grid w-[min(32rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 gap-3 p-5">
          <AlertDialog.Title className="text-lg font-bold">
            {sent ? "Everything is saved" : `${entries(waiting + aside)} of yours are only on this device`}
          </AlertDialog.Title>
          <AlertDialog.Description>
            {sent
              ? "You can sign out."
              : "They stay here, locked to you: nobody else can send or read them, and they go out when you sign in on this device again."}
          </AlertDialog.Description>
          {state.trouble && <p className="text-sm text-rust">{state.trouble}</p>}
          <div className="flex flex-wrap gap-2">
            {!sent && <Button onClick={queue.retry}>Send now</Button>}
            {!sent && <Button onClick={() => void exportEntries(own)}>Export to a file</Button>}
            <AlertDialog.Action asChild>
              <Button weight="main" onClick={onSignOut}>
                {sent ? "Sign out" : "Keep them locked and sign out"}
              </Button>
            </AlertDialog.Action>
            <AlertDialog.Cancel asChild>
              <Button>Stay</Button>
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
