import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { postRaw, type Schemas } from "../../api/client";
import { ticket } from "../use-preview";

export type ScopeKind = Schemas["ScopeIn"]["kind"];
type Told = { outside_percent: string };

/** A scope of a design, as JSON, at a moment: the address of a picture, and what the server says of it. */
export function useScope(kind: ScopeKind, framingId: number, design: string | null, time: string) {
  return useQuery({
    queryKey: ["scope", framingId, kind, time, design],
    enabled: design !== null,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    queryFn: async () => {
      const response = await postRaw(`/api/framings/${framingId}/scope`, {
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({
          design: JSON.parse(design ?? ""),
          time,
          kind,
          slot: "scope",
          ticket: ticket(),
        }),
      });
      if (response.status === 204) return null;
      const told = JSON.parse(response.headers.get("Cadrage-Scope") ?? "{}") as Told;
      return { picture: await asDataUrl(await response.blob()), outside: told.outside_percent };
    },
  });
}

/** A picture as an address that needs no clearing up. */
function asDataUrl(blob: Blob): Promise<string> {
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.readAsDataURL(blob);
  });
}
