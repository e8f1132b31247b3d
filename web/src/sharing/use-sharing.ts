import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { useCalls } from "../api/use-send";

export type Role = Schemas["MemberIn"]["role"];

/** With whom a project is shared, and ways to change that. */
export function useSharing(projectId: number) {
  const queryKey = ["sharing", projectId];
  const params = { path: { project_id: projectId } };
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => unwrap(api.GET("/api/projects/{project_id}/sharing", { params })),
  });
  const { mutate, error: failed } = useCalls({
    refresh: (client) => {
      client.invalidateQueries({ queryKey });
      client.invalidateQueries({ queryKey: ["projects"] });
    },
  });
  return {
    data,
    error: error ?? failed,
    share: (body: { name: string; role: Role }, onSuccess?: () => void) =>
      mutate(() => api.POST("/api/projects/{project_id}/members", { params, body }), { onSuccess }),
    unshare: (member_id: number) =>
      mutate(() => api.DELETE("/api/members/{member_id}", { params: { path: { member_id } } })),
    link: (body: { days: number; downloads: boolean }) =>
      mutate(() => api.POST("/api/projects/{project_id}/links", { params, body })),
    revoke: (link_id: number) =>
      mutate(() => api.DELETE("/api/links/{link_id}", { params: { path: { link_id } } })),
    invite: (role: Role) =>
      mutate(() => api.POST("/api/projects/{project_id}/invitations", { params, body: { role } })),
    uninvite: (invitation_id: number) =>
      mutate(() => api.DELETE("/api/invitations/{invitation_id}", { params: { path: { invitation_id } } })),
  };
}
