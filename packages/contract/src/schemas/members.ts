import { z } from 'zod';
import { key, timestamp, title } from './common.js';
import { installationRole, role, siteRole } from './rights.js';
import { hasOneProof, identityAnswer } from './identity.js';
import { password } from './session.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

/** The login of a member in an address. */
export const memberLogin = z.string().min(1).max(120);

const newLogin = z
  .string()
  .min(2)
  .max(120)
  .regex(/^[a-z0-9][a-z0-9._@+-]*$/, says('loginForm'))
  .meta({ description: 'What they sign in with, such as a mail address.' });

const namedSiteRole = siteRole.extend({ siteName: z.string() });

export const memberDetail = z
  .object({
    login: z.string(),
    name: z.string(),
    role: installationRole,
    sites: z.array(namedSiteRole).meta({ description: 'Roles at single sites.' }),
    identities: z.int().meta({ description: 'With how many at the identity provider they are connected.' }),
    hasPassword: z.boolean(),
    hasSecondFactor: z.boolean().meta({ description: 'They sign in with a code, too.' }),
    mustChangePassword: z.boolean().meta({ description: 'They have not chosen their own password yet.' }),
    lastSeenAt: timestamp.nullable(),
    tokens: z.int(),
    isYou: z.boolean(),
  })
  .meta({ id: 'MemberDetail' });
export type MemberDetail = z.infer<typeof memberDetail>;

export const memberPatch = z
  .strictObject({ name: title, role: installationRole })
  .partial()
  .meta({ id: 'MemberPatch' });

export const siteMember = z
  .object({
    login: z.string(),
    name: z.string(),
    role,
    isEverywhere: z
      .boolean()
      .meta({ description: 'They have this role at all sites, so not from this one.' }),
    canBeMailed: z
      .boolean()
      .meta({ description: 'Whether a comment that mentions them reaches them by mail.' }),
    isYou: z.boolean(),
  })
  .meta({ id: 'SiteMember', description: 'Somebody who may see a site, and what they may do there.' });
export type SiteMemberResource = z.infer<typeof siteMember>;

export const siteRoleInput = z.strictObject({ role }).meta({ id: 'SiteRoleInput' });

export const invitationInput = z
  .strictObject({
    name: title.meta({ description: 'Whom it is for.' }),
    role: installationRole.default(null),
    sites: z.array(siteRole).max(1_000).default([]),
    days: z.int().min(1).max(30).default(7).meta({ description: 'For so long the link works, once.' }),
  })
  .refine(({ role: everywhere, sites }) => everywhere !== null || sites.length > 0, {
    path: ['sites'],
    error: () => FIELD_TEXTS.inviteToSomething,
  })
  .meta({ id: 'InvitationInput' });

export const invitation = z
  .object({
    id: z.int(),
    name: z.string(),
    by: z.string(),
    role: installationRole,
    sites: z.array(namedSiteRole),
    createdAt: timestamp,
    expiresAt: timestamp,
  })
  .meta({ id: 'Invitation', description: 'A link by which somebody becomes a member, or gets more roles.' });
export type InvitationResource = z.infer<typeof invitation>;

export const newInvitation = invitation.extend({
  path: z.string().meta({ description: 'Of the link, below the service’s address. Shown once.' }),
});

const secret = z.string().min(20).max(200).meta({ description: 'What stands behind the # of the link.' });

export const invitationSecret = z.strictObject({ secret }).meta({ id: 'InvitationSecret' });

/** What somebody sees who has the link. */
export const openedInvitation = z
  .object({
    name: z.string(),
    by: z.string().meta({ description: 'The name of whoever invites.' }),
    role: installationRole,
    sites: z.array(namedSiteRole.omit({ site: true })),
    expiresAt: timestamp,
  })
  .meta({ id: 'OpenedInvitation' });
export type OpenedInvitation = z.infer<typeof openedInvitation>;

export const invitationAcceptance = z
  .strictObject({
    ...{ secret, login: newLogin, name: title },
    password: password.optional(),
    identity: identityAnswer.optional().meta({
      description:
        'In place of a password: what the identity provider said, by which they sign in from then on.',
    }),
  })
  .refine(hasOneProof, { path: ['password'], error: () => FIELD_TEXTS.passwordMissing })
  .meta({ id: 'InvitationAcceptance' });

export const joinedSites = z.object({ role: installationRole, sites: z.array(key) }).meta({ id: 'Joined' });
