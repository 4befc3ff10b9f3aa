import type { EndpointCall, Endpoints } from '@pragmatica/contract';
import type { Role } from '@pragmatica/core';
import { queryOptions } from '@tanstack/react-query';
import { useChangeOf } from './change';
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

export function useInvite() {
  return useChangeOf(
    'members',
    async (body: EndpointCall<Endpoints['createInvitation']>['body']) =>
      (await api.call('createInvitation', { body })).data,
  );
}

export function useWithdraw(onDone: () => void) {
  return useChangeOf(
    'members',
    (invitation: number) => api.call('endInvitation', { params: { invitation } }),
    onDone,
  );
}

/** Gives a member a role at a site; null takes them off it. */
export function useSiteRole(site: string, onDone: (role: Role | null) => void) {
  return useChangeOf(
    'members',
    async ({ member, role }: { member: string; role: Role | null }) => {
      const params = { site, member };
      if (role === null) await api.call('removeSiteRole', { params });
      else await api.call('setSiteRole', { params, body: { role } });
    },
    (_result, { role }) => onDone(role),
  );
}

/** Gives a member a role at all sites; null for none. */
export function useRoleEverywhere() {
  return useChangeOf('members', ({ member, role }: { member: string; role: Role | null }) =>
    api.call('editMember', { params: { member }, body: { role } }),
  );
}

export function useRemoveMember(onDone: () => void) {
  return useChangeOf('members', (member: string) => api.call('removeMember', { params: { member } }), onDone);
}

export function useResetPassword() {
  return useChangeOf(
    'members',
    async (member: string) => (await api.call('resetPassword', { params: { member } })).data.password,
  );
}
