import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site } from './params.js';

const member = z.strictObject({ member: schemas.memberLogin });
const siteMember = site.extend(member.shape);

/** Who may do what, and how somebody comes to it. */
export const membersEndpoints = {
  listMembers: {
    method: 'GET',
    path: '/members',
    summary: 'Everybody who may sign in, with their roles',
    needs: { installation: 'own' },
    response: items(schemas.memberDetail),
  },
  editMember: {
    method: 'PATCH',
    path: '/members/{member}',
    summary: 'Change a member’s name, or the role at all sites',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: member,
    body: schemas.memberPatch,
    response: schemas.memberDetail,
  },
  removeMember: {
    method: 'DELETE',
    path: '/members/{member}',
    summary: 'Remove a member: sessions and tokens end at once; what they did stays in the history',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: member,
  },
  resetPassword: {
    method: 'POST',
    path: '/members/{member}/one-time-password',
    summary: 'Give a member who lost the password a one-time password; shown once, their sessions end',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: member,
    response: z.object({ password: z.string() }),
  },
  listSiteMembers: {
    method: 'GET',
    path: '/sites/{site}/members',
    summary: 'Who may see the site, and what they may do there',
    needs: { site: 'view' },
    params: site,
    response: items(schemas.siteMember),
  },
  setSiteRole: {
    method: 'PUT',
    path: '/sites/{site}/members/{member}',
    summary: 'Give a member another role at the site',
    needs: { site: 'own' },
    needsConfirmation: true,
    params: siteMember,
    body: schemas.siteRoleInput,
    response: schemas.siteMember,
  },
  removeSiteRole: {
    method: 'DELETE',
    path: '/sites/{site}/members/{member}',
    summary: 'Take a member off the site',
    needs: { site: 'own' },
    needsConfirmation: true,
    params: siteMember,
  },
  listInvitations: {
    method: 'GET',
    path: '/invitations',
    summary: 'Open invitations to what you own',
    needs: { eachSite: 'own' },
    response: items(schemas.invitation),
  },
  createInvitation: {
    method: 'POST',
    path: '/invitations',
    summary: 'Invite somebody, by a link that works once; it is shown once',
    needs: { eachSite: 'own' },
    makes: 'invitations',
    needsConfirmation: true,
    body: schemas.invitationInput,
    response: schemas.newInvitation,
    status: 201,
  },
  endInvitation: {
    method: 'DELETE',
    path: '/invitations/{invitation}',
    summary: 'Withdraw an invitation',
    needs: { eachSite: 'own' },
    params: z.strictObject({ invitation: z.coerce.number().int() }),
  },
  openInvitation: {
    method: 'POST',
    path: '/invitation',
    summary: 'What an invitation is to',
    needs: 'nothing',
    body: schemas.invitationSecret,
    response: schemas.openedInvitation,
  },
  acceptInvitation: {
    method: 'POST',
    path: '/invitation/accepted',
    summary: 'Become a member by an invitation, and be signed in',
    needs: 'nothing',
    makes: 'members',
    body: schemas.invitationAcceptance,
    response: schemas.member,
    status: 201,
  },
  joinInvitation: {
    method: 'POST',
    path: '/invitation/joined',
    summary: 'Add what an invitation gives to what you may do already',
    needs: 'account',
    body: schemas.invitationSecret,
    response: schemas.joinedSites,
  },
} as const satisfies Record<string, Endpoint>;
