import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import type { Board } from "../api/client";
import { refreshFramings } from "../api/queries";
import { inOrder } from "../api/saves";

const CHANGE = ["change"];

/**
 * A change of a clip or a frame, which concerns many framings. The board shows it at once; what the server makes of it is
 * fetched when the last of several changes is stored.
 */
export function useChange<Given, Answer>(
  send: (given: Given) => Promise<Answer>,
  shown: (board: Board, given: Given) => Board,
) {
  const client = useQueryClient();
  return useMutation({
    mutationKey: CHANGE,
    mutationFn: (given: Given) => inOrder(() => send(given)),
    onMutate: (given: Given) => {
      client.cancelQueries({ queryKey: ["board"] });
      client.setQueriesData<Board>({ queryKey: ["board"] }, (board) => board && shown(board, given));
    },
    onSettled: () => {
      if (client.isMutating({ mutationKey: CHANGE }) === 1) return refreshFramings(client);
    },
  });
}

/** Resolve once every change is stored and the board shows what the server makes of it. */
export function changesSettled(client: QueryClient): Promise<void> {
  return new Promise((resolve) => {
    const check = () => {
      if (client.isMutating({ mutationKey: CHANGE }) > 0) return;
      stop();
      resolve();
    };
    const stop = client.getMutationCache().subscribe(check);
    check();
  });
}

/** A board with one of its clips, or frames, changed. */
export function withOne<Key extends "footage" | "frames">(
  board: Board,
  key: Key,
  id: number,
  fields: Partial<Board[Key][number]>,
): Board {
  const rows = board[key].map((row) => (row.id === id ? { ...row, ...fields } : row));
  return { ...board, [key]: rows };
}
