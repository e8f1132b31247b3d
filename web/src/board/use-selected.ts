import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { inAddress } from "../ui/address";
import { readIds, written } from "./selection";

/** The selected cells, which the address names. */
export function useSelected() {
  const [query, setQuery] = useSearchParams();
  const [selected, select] = useState<ReadonlySet<number>>(() => readIds(query.get("cells") ?? ""));
  const named = written(selected);
  const set = useRef(setQuery);
  set.current = setQuery;
  useEffect(() => {
    if (named !== (inAddress({}).get("cells") ?? ""))
      set.current(inAddress({ cells: named }), { replace: true });
  }, [named]);
  return [selected, (ids: Iterable<number>) => select(new Set(ids))] as const;
}
