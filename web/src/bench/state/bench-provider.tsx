import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useLayoutEffect, useState } from "react";
import { useChoices } from "../../api/use-choices";
import { useBenchUrl } from "../use-bench-url";
import { Bench } from "./bench";
import type { Stored } from "./types";
import { BenchContext } from "./use-bench";

type Props = Pick<Stored, "board" | "footage" | "framing"> & { children: ReactNode };

/** The bench of a framing, for all components in it. */
export function BenchProvider({ board, footage, framing, children }: Props) {
  const client = useQueryClient();
  const choices = useChoices();
  const url = useBenchUrl();
  const [bench] = useState(() => new Bench(client, choices, { board, footage, framing }, url));
  useLayoutEffect(() => bench.receive({ board, footage, framing }), [bench, board, footage, framing]);
  useLayoutEffect(() => bench.goToStep(url.step), [bench, url.step]);
  useEffect(() => bench.connect(), [bench]);
  return <BenchContext value={bench.store}>{children}</BenchContext>;
}
