import { defineEntity, p, type InferEntity } from '@mikro-orm/core';
import { DEVICES, ROLES, TOKEN_ROLES } from '@pragmatica/core';
import { SiteEntity } from './site.js';

/** Somebody who may sign in. */
export const MemberEntity = defineEntity({
  name: 'Member',
  tableName: 'member',
  properties: {
    id: p.integer().primary(),
    login: p.string().unique(),
    name: p.string(),
    passwordHash: p.text(),
    mustChangePassword: p.boolean(),
    /** At all sites and for the installation; null for none. */
    role: p.enum([...ROLES]).nullable(),
    /** The sealed secret of an authenticator (RFC 6238); null for none. */
    secondFactor: p.text().nullable(),
    /** The time step of the last code that was used: none is taken twice. */
    secondFactorStep: p.integer().nullable(),
    /** Where mails to them go; empty for nowhere, null for their login where it is an address. */
    mail: p.text().nullable(),
    /** The tag of the language that they have chosen; null for the one of whatever they use. */
    language: p.text().nullable(),
    createdAt: p.datetime(),
  },
});
export type Member = InferEntity<typeof MemberEntity>;

/** A session or a bearer token. Only the SHA-256 of its secret is kept. */
export const CredentialEntity = defineEntity({
  name: 'Credential',
  tableName: 'credential',
  properties: {
    id: p.integer().primary(),
    kind: p.enum(['session', 'token']),
    hash: p.string().unique(),
    name: p.string(),
    member: () => p.manyToOne(MemberEntity).deleteRule('cascade').index(),
    createdAt: p.datetime(),
    lastUsedAt: p.datetime().nullable(),
    expiresAt: p.datetime(),
    /** The address that it was opened from; null for what is no session. */
    openedFrom: p.string().nullable(),
    device: p.enum([...DEVICES]).nullable(),
    /** What a token was made for; null for all that its member may do. */
    role: p.enum([...TOKEN_ROLES]).nullable(),
    /** When the password was last given with it. */
    confirmedAt: p.datetime().nullable(),
    /** Whether it is for all sites that its member sees, or for those that are listed. */
    isForAllSites: p.boolean().default(true),
  },
});
export type Credential = InferEntity<typeof CredentialEntity>;

/** Signs in once in place of a code of the authenticator. Only its SHA-256 is kept. */
export const RecoveryCodeEntity = defineEntity({
  name: 'RecoveryCode',
  tableName: 'recovery_code',
  properties: {
    id: p.integer().primary(),
    member: () => p.manyToOne(MemberEntity).deleteRule('cascade').index(),
    hash: p.string().unique(),
  },
});

/** A public key by which a member signs in (Web Authentication). */
export const PasskeyEntity = defineEntity({
  name: 'Passkey',
  tableName: 'passkey',
  properties: {
    id: p.integer().primary(),
    member: () => p.manyToOne(MemberEntity).deleteRule('cascade').index(),
    name: p.string(),
    /** Base64url. */
    credentialId: p.text().unique(),
    /** COSE, base64url. */
    publicKey: p.text(),
    /** How often it has signed, as it says itself; not all do. */
    counter: p.bigint('number'),
    transports: p.json<readonly string[]>(),
    /** The host name that it was made for: it signs for no other. */
    partyId: p.string(),
    createdAt: p.datetime(),
    lastUsedAt: p.datetime().nullable(),
  },
});
export type Passkey = InferEntity<typeof PasskeyEntity>;

/** Somebody at an identity provider, by whom a member signs in (OpenID Connect). */
export const IdentityEntity = defineEntity({
  name: 'Identity',
  tableName: 'identity',
  uniques: [{ properties: ['issuer', 'subject'] }],
  properties: {
    id: p.integer().primary(),
    member: () => p.manyToOne(MemberEntity).deleteRule('cascade').index(),
    issuer: p.text(),
    subject: p.text(),
    /** What the provider called them the last time. */
    name: p.string(),
    createdAt: p.datetime(),
    lastUsedAt: p.datetime().nullable(),
  },
});
export type Identity = InferEntity<typeof IdentityEntity>;

/** A member’s role at one site. */
export const MembershipEntity = defineEntity({
  name: 'Membership',
  tableName: 'membership',
  uniques: [{ properties: ['member', 'site'] }],
  properties: {
    id: p.integer().primary(),
    member: () => p.manyToOne(MemberEntity).deleteRule('cascade'),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade').index(),
    role: p.enum([...ROLES]),
  },
});

/** A link by which somebody becomes a member, or gets more roles. Only the SHA-256 of its secret is kept. */
export const InvitationEntity = defineEntity({
  name: 'Invitation',
  tableName: 'invitation',
  properties: {
    id: p.integer().primary(),
    hash: p.string().unique(),
    /** Whom it is for, in the words of whoever made it. */
    name: p.string(),
    /** At all sites and for the installation; null for none. */
    role: p.enum([...ROLES]).nullable(),
    /** The login of whoever made it. */
    createdBy: p.string(),
    createdAt: p.datetime(),
    expiresAt: p.datetime(),
  },
});
export type Invitation = InferEntity<typeof InvitationEntity>;

/** A role at one site that an invitation gives. */
export const InvitedRoleEntity = defineEntity({
  name: 'InvitedRole',
  tableName: 'invited_role',
  uniques: [{ properties: ['invitation', 'site'] }],
  properties: {
    id: p.integer().primary(),
    invitation: () => p.manyToOne(InvitationEntity).deleteRule('cascade'),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade').index(),
    role: p.enum([...ROLES]),
  },
});

/** A site that a token was made for. */
export const TokenSiteEntity = defineEntity({
  name: 'TokenSite',
  tableName: 'token_site',
  uniques: [{ properties: ['credential', 'site'] }],
  properties: {
    id: p.integer().primary(),
    credential: () => p.manyToOne(CredentialEntity).deleteRule('cascade'),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade').index(),
  },
});
