import { DEVICES } from '@pragmatica/core';
import { z } from 'zod';
import { key, timestamp, title } from './common.js';
import { hasOneProof, identityAnswer } from './identity.js';
import { installationRole, tokenRole } from './rights.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

export const MIN_PASSWORD_LENGTH = 10;

export const password = z.string().min(MIN_PASSWORD_LENGTH).max(200);

const endTokens = z
  .boolean()
  .default(false)
  .meta({ description: 'With a new password: also end all tokens. Sessions end in any case.' });

export const signIn = z
  .strictObject({
    login: z.string().min(1, says('loginMissing')).max(120),
    password: z.string().min(1, says('passwordMissing')).max(200),
    newPassword: password
      .optional()
      .meta({ description: 'Replaces the password, which a one-time password must be.' }),
    endTokens,
    code: z.string().max(40).optional().meta({
      description: 'Of the authenticator, or a recovery code, where the member signs in with one.',
    }),
    as: z
      .enum(['session', 'token'])
      .default('session')
      .meta({ description: 'A cookie for a browser or a bearer token.' }),
    tokenName: title.optional(),
  })
  .meta({ id: 'SignIn' });

export const member = z
  .object({
    login: z.string(),
    name: z.string(),
    mustChangePassword: z.boolean(),
    hasPassword: z.boolean().meta({ description: 'Not where they only sign in elsewhere.' }),
    role: installationRole,
    mail: z
      .string()
      .nullable()
      .meta({ description: 'Where a mail goes when a comment mentions them; null for nowhere.' }),
    language: z.string().nullable().meta({
      description: 'The tag of the language that they have chosen; null where they have chosen none.',
    }),
  })
  .meta({ id: 'Member' });
export type MemberResource = z.infer<typeof member>;

export const accountInput = z
  .strictObject({
    mail: z.email(says('emailForm')).max(320).nullable().optional().meta({
      description: 'Where a mail goes when a comment mentions you; null for nowhere.',
    }),
    language: z.string().min(1).max(40).nullable().optional().meta({
      description:
        'The tag of the language that you read (BCP 47), one of those that the service speaks; null for the one that your browser or the installation says.',
    }),
  })
  .meta({ id: 'AccountInput' });

const tokens = z.int().meta({ description: 'How many of your tokens are valid.' });

export const signedIn = z.object({ member, token: z.string().nullable(), tokens }).meta({ id: 'SignedIn' });

export const passwordChange = z
  .strictObject({
    current: z.string().min(1).max(200).optional().meta({ description: 'Left out by whoever has none yet.' }),
    new: password,
    endTokens,
  })
  .meta({ id: 'PasswordChange' });

export const passwordChanged = member.extend({ tokens }).meta({ id: 'PasswordChanged' });

export const confirmation = z
  .strictObject({
    password: z.string().min(1, says('passwordMissing')).max(200).optional(),
    identity: identityAnswer
      .optional()
      .meta({ description: 'In place of the password: a fresh sign-in at the identity provider.' }),
  })
  .refine(hasOneProof, { path: ['password'], error: () => FIELD_TEXTS.passwordMissing })
  .meta({ id: 'Confirmation' });

export const confirmed = z
  .object({ until: timestamp.meta({ description: 'Until then what matters is not asked for again.' }) })
  .meta({ id: 'Confirmed' });

export const secondFactor = z
  .object({ isOn: z.boolean(), recoveryCodes: z.int().meta({ description: 'How many are left.' }) })
  .meta({ id: 'SecondFactor' });

export const proposedSecondFactor = z
  .object({
    secret: z.string().meta({ description: 'Base32, to be typed where the address cannot be scanned.' }),
    address: z.string().meta({ description: 'For the authenticator, as a QR code: otpauth://…' }),
  })
  .meta({ id: 'ProposedSecondFactor' });

export const secondFactorProof = z
  .strictObject({
    secret: z
      .string()
      .max(32)
      .regex(/^[A-Z2-7]{32}$/, says('secretForm')),
    code: z.string().max(40),
  })
  .meta({ id: 'SecondFactorProof' });

export const recoveryCodes = z
  .object({ codes: z.array(z.string()) })
  .meta({ id: 'RecoveryCodes', description: 'Each signs in once in place of a code of the authenticator.' });

export const session = z
  .object({
    id: z.int(),
    openedFrom: z.string().nullable().meta({ description: 'The address that it was opened from.' }),
    device: z.enum(DEVICES).nullable(),
    createdAt: timestamp,
    lastUsedAt: timestamp.nullable(),
    expiresAt: timestamp,
    isThis: z.boolean().meta({ description: 'The session that asks.' }),
  })
  .meta({ id: 'Session', description: 'A browser in which you are signed in.' });
export type SessionResource = z.infer<typeof session>;

export const token = z
  .object({
    id: z.int(),
    name: z.string(),
    createdAt: timestamp,
    lastUsedAt: timestamp.nullable(),
    expiresAt: timestamp,
    role: tokenRole.nullable().meta({ description: 'What it was made for; null for all that you may do.' }),
    sites: z
      .array(key)
      .nullable()
      .meta({ description: 'Keys of the sites that it was made for; null for all that you see.' }),
  })
  .meta({
    id: 'Token',
    description: 'A bearer token; the secret itself is shown once and kept only as a hash.',
  });

export type TokenResource = z.infer<typeof token>;

export const tokenInput = z
  .strictObject({
    name: title,
    days: z.int().min(1).max(3650).default(365),
    role: tokenRole.nullable().default(null).meta({
      description: 'What it is for; never more than you may do. Left out: all that you may do.',
    }),
    sites: z
      .array(key)
      .min(1)
      .max(1_000)
      .nullable()
      .default(null)
      .meta({ description: 'Keys of the sites that it is for. Left out: all that you see.' }),
  })
  .meta({ id: 'TokenInput' });
