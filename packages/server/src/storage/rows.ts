import type * as stored from './entities/index.js';

/** Rows as the service sees them: plain data, which the functions of this folder alone change. */
export type Member = Readonly<stored.Member>;
export type Credential = Readonly<Omit<stored.Credential, 'member'>> & { readonly member: Member };
export type Passkey = Readonly<Omit<stored.Passkey, 'member'>> & { readonly member: Member };
export type Identity = Readonly<Omit<stored.Identity, 'member'>> & { readonly member: Member };
export type Invitation = Readonly<stored.Invitation>;
export type Site = Readonly<stored.Site>;
export type Host = Readonly<stored.Host>;
export type Snippet = Readonly<stored.Snippet>;
export type Part = Readonly<stored.Part>;
export type Release = Readonly<stored.Release>;
export type Pointer = Readonly<Omit<stored.Pointer, 'release'>> & { readonly release: Release };
export type WaiverRow = Readonly<stored.WaiverRow>;
export type AuditEntry = Readonly<stored.Audit>;
