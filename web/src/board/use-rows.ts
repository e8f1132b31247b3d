import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Board } from "../api/client";
import { rendersQuery } from "../api/queries";
import { newestOf } from "../rendering/rendered";
import { arranged, type Order } from "./arranging";

/** The rows of a board as its address filters and sorts them, and the newest render of each cell. */
export function useRows(board: Board, query = new URLSearchParams()) {
  const { data: ordered } = useQuery(rendersQuery(board.id));
  const renders = useMemo(() => newestOf(ordered ?? []), [ordered]);
  const order = (query.get("sort") ?? "added") as Order;
  const reason = query.get("look");
  const words = query.get("search") ?? "";
  const rows = useMemo(
    () => arranged(board, { order, reason, words, renders }),
    [board, order, reason, words, renders],
  );
  return { rows, renders, ordered, words, byHand: order === "added" && !reason && !words };
}
