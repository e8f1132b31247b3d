import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import { titleOf, useChoices } from "../api/use-choices";
import { Button } from "../ui/button";
import { Overlay } from "../ui/overlay";
import { ProblemNote } from "../ui/problem-note";
import { TickRow } from "../ui/tick-row";
import { type Role, useSharing } from "./use-sharing";

type Props = { projectId: number; name: string; onClose: () => void };
type Sharing = ReturnType<typeof useSharing>;

const FIELD = "rounded border border-edge bg-sheet px-2 py-1";

/** People who can view or edit a project, and links for people without an account. */
export function ShareDialog({ projectId, name, onClose }: Props) {
  const sharing = useSharing(projectId);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Overlay title={`Share ${name}`} width={600}>
        <div className="grid gap-6 overflow-y-auto">
          <ProblemNote error={sharing.error} />
          <People sharing={sharing} />
          <Invitations sharing={sharing} />
          <Links sharing={sharing} />
        </div>
      </Overlay>
    </Dialog.Root>
  );
}

function People({ sharing }: { sharing: Sharing }) {
  const [who, setWho] = useState("");
  const [role, setRole] = useState<Role>("see");
  return (
    <section aria-label="People" className="grid gap-2">
      <h3 className="font-semibold">People here</h3>
      {sharing.data?.members.length === 0 && <p className="text-soft">Only you so far.</p>}
      <ul className="grid gap-1">
        {sharing.data?.members.map((member) => (
          <li key={member.id} className="flex items-center gap-3">
            <span className="min-w-0 grow wrap-anywhere">{member.name}</span>
            <RoleChoice
              label={`Role of ${member.name}`}
              role={member.role}
              onChange={(next) => sharing.share({ name: member.name, role: next })}
            />
            <Button look="quiet" of={member.name} onClick={() => sharing.unshare(member.id)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          sharing.share({ name: who, role }, () => setWho(""));
        }}
      >
        <input
          aria-label="Account name"
          placeholder="Account name"
          className={`grow ${FIELD}`}
          value={who}
          maxLength={150}
          onChange={(event) => setWho(event.target.value)}
        />
        <RoleChoice label="Role" role={role} onChange={setRole} />
        <Button type="submit" disabled={!who.trim()}>
          Add
        </Button>
      </form>
      <p className="text-soft">
        People who can edit add, change and render everything; only you can delete, copy or share it.
      </p>
    </section>
  );
}

function RoleChoice({
  label,
  role,
  onChange,
}: {
  label: string;
  role: Role;
  onChange: (role: Role) => void;
}) {
  const { roles } = useChoices();
  return (
    <select
      aria-label={label}
      className={FIELD}
      value={role}
      onChange={(event) => onChange(event.target.value as Role)}
    >
      {roles.map(({ value, title: text }) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
}

/** Links for people who have no account here yet: they make one, and the project is shared with them. */
function Invitations({ sharing }: { sharing: Sharing }) {
  const { roles } = useChoices();
  const [role, setRole] = useState<Role>("see");
  return (
    <section aria-label="Invitations" className="grid gap-2">
      <h3 className="font-semibold">Invite a new person</h3>
      <p className="text-soft">
        Anyone with an invitation link makes an account and opens this project. Each is for one person.
      </p>
      <ul className="grid gap-1">
        {sharing.data?.invitations.map((row) => (
          <LinkLine
            key={row.id}
            label="Invitation"
            path={row.path}
            about={`${titleOf(roles, row.role)}, until ${new Date(row.expires).toLocaleDateString()}`}
            onRevoke={() => sharing.uninvite(row.id)}
          />
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-3">
        <RoleChoice label="Role of the new account" role={role} onChange={setRole} />
        <Button onClick={() => sharing.invite(role)}>Make an invitation</Button>
      </div>
    </section>
  );
}

type LineProps = { label: string; path: string; about: string; onRevoke: () => void };

/** Copy a text, which stands in a field; says whether that could be done. Without HTTPS only the old way is there. */
async function copy(text: string, field: HTMLInputElement | null): Promise<boolean> {
  if (navigator.clipboard) return navigator.clipboard.writeText(text).then(() => true);
  field?.select();
  return document.execCommand("copy");
}

/** A link to copy or to revoke, with its rights. */
function LinkLine({ label, path, about, onRevoke }: LineProps) {
  const [copied, setCopied] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const row = `${label.toLowerCase()} ${about}`;
  const address = `${window.location.origin}${path}`;
  return (
    <li className="flex flex-wrap items-center gap-x-3">
      <input
        ref={field}
        readOnly
        aria-label={label}
        className={`num min-w-0 grow basis-full ${FIELD}`}
        value={address}
        onFocus={(event) => event.target.select()}
      />
      <span className="num grow text-soft">{about}</span>
      <Button look="quiet" of={row} onClick={() => copy(address, field.current).then(setCopied)}>
        {copied ? "Copied" : "Copy"}
      </Button>
      <Button look="quiet" of={row} onClick={onRevoke}>
        Revoke
      </Button>
    </li>
  );
}

function Links({ sharing }: { sharing: Sharing }) {
  const { link_days } = useChoices();
  const [days, setDays] = useState(7);
  const [downloads, setDownloads] = useState(false);
  return (
    <section aria-label="Links" className="grid gap-2">
      <h3 className="font-semibold">View-only links</h3>
      <p className="text-soft">
        Anyone with a link sees the board and plays finished renders, without an account, until it expires.
      </p>
      <ul className="grid gap-1">
        {sharing.data?.links.map((link) => (
          <LinkLine
            key={link.id}
            label="Link"
            path={link.path}
            about={`until ${new Date(link.expires).toLocaleDateString()}${link.downloads ? ", with downloads" : ""}`}
            onRevoke={() => sharing.revoke(link.id)}
          />
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-3">
        <select
          aria-label="Expires after"
          className={FIELD}
          value={days}
          onChange={(event) => setDays(Number(event.target.value))}
        >
          {link_days.map((one) => (
            <option key={one} value={one}>
              {one === 1 ? "for a day" : `for ${one} days`}
            </option>
          ))}
        </select>
        <TickRow ticked={downloads} onChange={setDownloads}>
          Allow downloads
        </TickRow>
        <Button onClick={() => sharing.link({ days, downloads })}>Make a link</Button>
      </div>
    </section>
  );
}
