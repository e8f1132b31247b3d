import { Dialog } from "radix-ui";
import { Button } from "../ui/button";
import { Overlay } from "../ui/overlay";

type Props = { name: string; uses: string[]; onRemove: () => void; onKeep: () => void };

/** Ask whether something is removed that is used elsewhere, and list where. */
export function UsedQuestion({ name, uses, onRemove, onKeep }: Props) {
  return (
    <Dialog.Root open onOpenChange={(open) => open || onKeep()}>
      <Overlay title={`${name} is used`} width={460}>
        <ul className="mb-3 grid gap-1 overflow-y-auto" data-testid="uses">
          {uses.map((use) => (
            <li key={use} className="wrap-anywhere">
              {use}
            </li>
          ))}
        </ul>
        <p className="mb-4 text-soft">
          If you remove it, these are marked on the board and cannot be rendered once it is deleted. You can
          bring it back for 15 minutes.
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onKeep}>Keep it</Button>
          <Button look="main" onClick={onRemove}>
            Remove
          </Button>
        </div>
      </Overlay>
    </Dialog.Root>
  );
}
