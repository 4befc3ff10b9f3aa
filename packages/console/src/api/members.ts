import type { EndpointCall, Endpoints } from '@pragmatica/contract';
import type { Role } from '@pragmatica/core';
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './client';

export const membersQuery = queryOptions({
  queryKey: ['members', 'all'],
  queryFn: async () => (await api.call('listMembers', {})).data.items,
});

export const siteMembersQuery = (site: string) =>
  queryOptions({
    queryKey: ['members', 'site', site],
    queryFn: async () => (await api.call('listSiteMembers', { params: { site } })).data.items,
  });

/** Invitations to what somebody owns. */
export const invitationsQuery = queryOptions({
  queryKey: ['members', 'invitations'],
  queryFn: async () => (await api.call('listInvitations', {})).data.items,
});

/** What an invitation is to. */
export const invitationQuery = (secret: string) =>
  queryOptions({
    queryKey: ['invitation', secret],
    queryFn: async () => (await api.call('openInvitation', { body: { secret } })).data,
    retry: false,
  });

/** A change of who may do what; what is shown of it is asked for again. */
export function useMembersChange<Input, Result>(change: (input: Input) => Promise<Result>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => client.invalidateQueries({ queryKey: ['members'] }),
  });
}

export function useInvite() {
  return useMembersChange(
    async (body: EndpointCall<Endpoints['createInvitation']>['body']) =>
      (await api.call('createInvitation', { body })).data,
  );
}

export function useWithdraw() {
  return useMembersChange((invitation: number) => api.call('endInvitation', { params: { invitation } }));
}

/** Gives a member a role at a site; null takes them off it. */
export function useSiteRole(site: string) {
  return useMembersChange(async ({ member, role }: { member: string; role: Role | null }) => {
    const params = { site, member };
    if (role === null) await api.call('removeSiteRole', { params });
    else await api.call('setSiteRole', { params, body: { role } });
  });
}

/** Gives a member a role at all sites; null for none. */
export function useRoleEverywhere() {
  return useMembersChange(({ member, role }: { member: string; role: Role | null }) =>
    api.call('editMember', { params: { member }, body: { role } }),
  );
}

export function useRemoveMember() {
  return useMembersChange((member: string) => api.call('removeMember', { params: { member } }));
}

export function useResetPassword() {
  return useMembersChange(
    async (member: string) => (await api.call('resetPassword', { params: { member } })).data.password,
  );
}
