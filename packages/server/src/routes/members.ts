import {
  acceptInvitation,
  invite,
  joinInvitation,
  listInvitations,
  openInvitation,
  withdraw,
} from '../auth/invitations.js';
import type { IdentityProvider } from '../auth/identity-provider.js';
import {
  changeMember,
  changeSiteRole,
  describeMembers,
  describeSiteMembers,
  dropMember,
  dropSiteRole,
  resetPassword,
} from '../auth/members.js';
import type { HandlersOf } from '../http/context.js';
import { openSession } from '../http/session-cookie.js';
import { memberResource, originOf } from '../http/who-asks.js';
import type { Settings } from '../settings.js';
import { findSite } from '../site/site-lock.js';

export function memberHandlers(
  settings: Settings,
  provider: IdentityProvider | undefined,
): HandlersOf<
  | 'listMembers'
  | 'editMember'
  | 'removeMember'
  | 'resetPassword'
  | 'listSiteMembers'
  | 'setSiteRole'
  | 'removeSiteRole'
  | 'listInvitations'
  | 'createInvitation'
  | 'endInvitation'
  | 'openInvitation'
  | 'acceptInvitation'
  | 'joinInvitation'
> {
  return {
    async listMembers(_input, { store, actor }) {
      return { data: { items: await describeMembers(store, actor) } };
    },

    async editMember({ params, body }, { store, actor }) {
      return { data: await changeMember(store, params.member, body, actor) };
    },

    async removeMember({ params }, { store, actor }) {
      await dropMember(store, params.member, actor);
      return { data: undefined };
    },

    async resetPassword({ params }, { store, actor }) {
      return { data: { password: await resetPassword(store, params.member, actor) } };
    },

    async listSiteMembers({ params }, { store, actor }) {
      const site = await findSite(store, params.site);
      return { data: { items: await describeSiteMembers(store, site, actor) } };
    },

    async setSiteRole({ params, body }, { store, actor }) {
      const site = await findSite(store, params.site);
      return { data: await changeSiteRole(store, site, { login: params.member, ...body }, actor) };
    },

    async removeSiteRole({ params }, { store, actor }) {
      await dropSiteRole(store, await findSite(store, params.site), params.member, actor);
      return { data: undefined };
    },

    async listInvitations(_input, { store, access }) {
      return { data: { items: await listInvitations(store, access) } };
    },

    async createInvitation({ body }, context) {
      return { data: await invite(context.store, body, context) };
    },

    async endInvitation({ params }, context) {
      await withdraw(context.store, params.invitation, context);
      return { data: undefined };
    },

    async openInvitation({ body }, { store }) {
      return { data: await openInvitation(store, body.secret) };
    },

    async acceptInvitation({ body: { secret, ...person } }, context) {
      const opening = { from: originOf(context), days: settings.PRAGMATICA_SESSION_DAYS };
      const made = await acceptInvitation(context.store, secret, person, { ...opening, provider });
      openSession(context.response, made.secret, settings);
      return { data: memberResource(made.member) };
    },

    async joinInvitation({ body }, { store, actor }) {
      return { data: await joinInvitation(store, body.secret, actor) };
    },
  };
}
