import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";

export type Person = Schemas["PersonOut"];
export type House = Schemas["HouseOut"];
type Change = Schemas["PersonIn"];

const EVERY = 5000;

/** The accounts and state of this server, and ways to change them. */
export function useHouse() {
  const client = useQueryClient();
  const queryKey = ["house"];
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => unwrap(api.GET("/api/house")),
    refetchInterval: EVERY,
  });
  const onSettled = () => client.invalidateQueries({ queryKey });
  const change = useMutation({
    mutationFn: ({ id, ...given }: Partial<Change> & { id: number }) =>
      unwrap(
        api.PATCH("/api/house/people/{person_id}", {
          params: { path: { person_id: id } },
          body: given as Change,
        }),
      ),
    onSettled,
  });
  const invite = useMutation({
    mutationFn: (administrator: boolean) =>
      unwrap(api.POST("/api/house/invitations", { body: { administrator, days: 7 } })),
    onSettled,
  });
  const uninvite = useMutation({
    mutationFn: (invitation_id: number) =>
      unwrap(api.DELETE("/api/house/invitations/{invitation_id}", { params: { path: { invitation_id } } })),
    onSettled,
  });
  return {
    data,
    error: error ?? change.error ?? invite.error ?? uninvite.error,
    change: change.mutate,
    invite: invite.mutate,
    uninvite: uninvite.mutate,
  };
}
