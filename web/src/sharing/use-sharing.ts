import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";

export type Role = Schemas["MemberIn"]["role"];

/** With whom a project is shared, and ways to change that. */
export function useSharing(projectId: number) {
  const client = useQueryClient();
  const queryKey = ["sharing", projectId];
  const params = { path: { project_id: projectId } };
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => unwrap(api.GET("/api/projects/{project_id}/sharing", { params })),
  });
  const onSettled = () => {
    client.invalidateQueries({ queryKey });
    client.invalidateQueries({ queryKey: ["projects"] });
  };
  const share = useMutation({
    mutationFn: (body: { name: string; role: Role }) =>
      unwrap(api.POST("/api/projects/{project_id}/members", { params, body })),
    onSettled,
  });
  const unshare = useMutation({
    mutationFn: (member_id: number) =>
      unwrap(api.DELETE("/api/members/{member_id}", { params: { path: { member_id } } })),
    onSettled,
  });
  const link = useMutation({
    mutationFn: (body: { days: number; downloads: boolean }) =>
      unwrap(api.POST("/api/projects/{project_id}/links", { params, body })),
    onSettled,
  });
  const revoke = useMutation({
    mutationFn: (link_id: number) =>
      unwrap(api.DELETE("/api/links/{link_id}", { params: { path: { link_id } } })),
    onSettled,
  });
  const invite = useMutation({
    mutationFn: (role: Role) =>
      unwrap(api.POST("/api/projects/{project_id}/invitations", { params, body: { role } })),
    onSettled,
  });
  const uninvite = useMutation({
    mutationFn: (invitation_id: number) =>
      unwrap(api.DELETE("/api/invitations/{invitation_id}", { params: { path: { invitation_id } } })),
    onSettled,
  });
  return {
    data,
    invite: invite.mutate,
    uninvite: uninvite.mutate,
    error:
      error ?? share.error ?? unshare.error ?? link.error ?? revoke.error ?? invite.error ?? uninvite.error,
    share,
    unshare: unshare.mutate,
    link: link.mutate,
    revoke: revoke.mutate,
  };
}
