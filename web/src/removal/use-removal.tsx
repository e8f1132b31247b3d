import { useMutation } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Problem } from "../api/client";
import { Note } from "../ui/note";
import { UsedQuestion } from "./used-question";

type Thing = { id: number; name: string };
type Requests = {
  /** Fails with a Problem that lists `uses`, unless it is confirmed or nothing else uses it. */
  remove: (id: number, confirmed: boolean) => Promise<unknown>;
  restore: (id: number) => Promise<unknown>;
  refresh: () => unknown;
};

/** Remove clips or pictures: ask first where something else uses one, and offer to undo it. */
export function useRemoval({ remove, restore, refresh }: Requests) {
  const [last, setLast] = useState<Thing | null>(null);
  const [asked, setAsked] = useState<(Thing & { uses: string[] }) | null>(null);
  const removal = useMutation({
    mutationFn: ({ id, confirmed }: Thing & { confirmed: boolean }) => remove(id, confirmed),
    onSuccess: (_, { id, name }) => {
      setLast({ id, name });
      setAsked(null);
    },
    onError: (error, { id, name }) => {
      if (error instanceof Problem && error.uses.length) setAsked({ id, name, uses: error.uses });
    },
    onSettled: refresh,
  });
  const restoring = useMutation({ mutationFn: restore, onSettled: refresh });
  const { mutate } = removal;
  const start = useCallback((thing: Thing, confirmed = false) => mutate({ ...thing, confirmed }), [mutate]);

  function bringBack(id: number) {
    restoring.mutate(id, { onSuccess: () => setLast((now) => (now?.id === id ? null : now)) });
  }

  function keep() {
    setAsked(null);
    removal.reset();
  }

  return {
    remove: start,
    restore: bringBack,
    error: (asked ? null : removal.error) ?? restoring.error,
    notes: (
      <>
        {asked && <UsedQuestion {...asked} onRemove={() => start(asked, true)} onKeep={keep} />}
        {last && <RemovedNote {...last} onUndo={bringBack} onClose={() => setLast(null)} />}
      </>
    ),
  };
}

type Removed = Thing & { onUndo: (id: number) => void; onClose: () => void };

const RemovedNote = ({ id, name, onUndo, onClose }: Removed) => (
  <Note text={`Removed ${name}.`} onUndo={() => onUndo(id)} onClose={onClose} />
);
