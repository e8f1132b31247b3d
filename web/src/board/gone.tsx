import type { Board } from "../api/client";
import { Button } from "../ui/button";

type Props = { gone: Board["gone"]; what: string; onRestore: (id: number) => void };

/** Things removed a short while ago, with buttons to restore them. */
export function Gone({ gone, what, onRestore }: Props) {
  if (gone.length === 0) return null;
  return (
    <details className="mt-4 text-soft">
      <summary className="cursor-pointer">
        Removed {what}, soon gone for good: {gone.length}
      </summary>
      <ul className="mt-2 grid gap-1">
        {gone.map(({ id, name }) => (
          <li key={id}>
            {name}{" "}
            <Button look="link" className="min-h-6" onClick={() => onRestore(id)}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
