import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { useCalls } from "../api/use-send";

export type Person = Schemas["PersonOut"];
export type House = Schemas["HouseOut"];
type Change = Schemas["PersonIn"];

const EVERY = 5000;

/** The accounts and state of this server, and ways to change them. */
export function useHouse() {
  const queryKey = ["house"];
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => unwrap(api.GET("/api/house")),
    refetchInterval: EVERY,
  });
  const { mutate, error: failed } = useCalls({ refresh: queryKey });
  return {
    data,
    error: error ?? failed,
    change: ({ id: person_id, ...given }: Partial<Change> & { id: number }) =>
      mutate(() =>
        api.PATCH("/api/house/people/{person_id}", {
          params: { path: { person_id } },
          body: given as Change,
        }),
      ),
    invite: (administrator: boolean) =>
      mutate(() => api.POST("/api/house/invitations", { body: { administrator, days: 7 } })),
    uninvite: (invitation_id: number) =>
      mutate(() =>
        api.DELETE("/api/house/invitations/{invitation_id}", { params: { path: { invitation_id } } }),
      ),
  };
}
