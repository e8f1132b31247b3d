import { useState } from "react";
import { Button } from "../ui/button";
import { TickRow } from "../ui/tick-row";
import type { House } from "./use-house";

type Props = {
  invitations: House["invitations"];
  onInvite: (administrator: boolean) => void;
  onUninvite: (id: number) => void;
};

/** Links by which people make accounts for themselves. */
export function Invitations({ invitations, onInvite, onUninvite }: Props) {
  const [administrator, setAdministrator] = useState(false);
  return (
    <section aria-label="Invitations" className="grid gap-2">
      <h2 className="font-semibold text-[15px]">Invite</h2>
      <p className="max-w-2xl text-soft">
        Anyone with an invitation link chooses a name and a password. Each is for one person and good for
        seven days.
      </p>
      <ul className="grid gap-1">
        {invitations.map((row) => (
          <li key={row.id} className="flex items-center gap-3">
            <input
              readOnly
              aria-label="Invitation"
              className="num min-w-0 grow rounded border border-edge bg-sheet px-2 py-1"
              value={`${window.location.origin}${row.path}`}
              onFocus={(event) => event.target.select()}
            />
            <span className="num shrink-0 text-soft">
              until {new Date(row.expires).toLocaleDateString()}
              {row.administrator && ", to administer"}
            </span>
            <Button
              look="quiet"
              of={`the invitation until ${new Date(row.expires).toLocaleDateString()}`}
              onClick={() => onUninvite(row.id)}
            >
              Revoke
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-4">
        <Button onClick={() => onInvite(administrator)}>Make an invitation</Button>
        <TickRow ticked={administrator} onChange={setAdministrator}>
          Administrator
        </TickRow>
      </div>
    </section>
  );
}
