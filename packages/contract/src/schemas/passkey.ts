import { z } from 'zod';
import { boundedRecord } from './bounds.js';
import { timestamp, title } from './common.js';

/** Base64url, as the Web Authentication API writes bytes in JSON. */
const bytes = (max: number) =>
  z
    .string()
    .max(max)
    .regex(/^[\w-]*$/);

const credential = {
  id: bytes(2_000),
  rawId: bytes(2_000),
  type: z.literal('public-key'),
  clientExtensionResults: boundedRecord(z.string().max(100), z.unknown(), 50),
  authenticatorAttachment: z.enum(['platform', 'cross-platform']).optional(),
};

/** What a browser made (Web Authentication Level 3, 5.1.8: RegistrationResponseJSON). */
const registration = z.object({
  ...credential,
  response: z.object({
    clientDataJSON: bytes(20_000),
    attestationObject: bytes(100_000),
    transports: z.array(z.string().max(40)).max(20).optional(),
  }),
});

/** What a browser signed (AuthenticationResponseJSON). */
const authentication = z.object({
  ...credential,
  response: z.object({
    clientDataJSON: bytes(20_000),
    authenticatorData: bytes(20_000),
    signature: bytes(20_000),
    userHandle: bytes(200).optional(),
  }),
});

const state = z
  .string()
  .max(2_000)
  .meta({ description: 'As it came with the options; it works once, for five minutes.' });

export const passkeyOptions = z
  .object({
    options: z
      .looseObject({ challenge: z.string() })
      .meta({ description: 'For navigator.credentials, as JSON.' }),
    state: z.string(),
  })
  .meta({ id: 'PasskeyOptions' });

export const passkeyInput = z
  .strictObject({ name: title, state, credential: registration })
  .meta({ id: 'PasskeyInput' });

export const passkeySignIn = z
  .strictObject({ state, credential: authentication })
  .meta({ id: 'PasskeySignIn' });

export const passkey = z
  .object({
    id: z.int(),
    name: z.string(),
    createdAt: timestamp,
    lastUsedAt: timestamp.nullable(),
  })
  .meta({
    id: 'Passkey',
    description: 'Signs you in with a fingerprint, a face or a PIN; only its public key is kept here.',
  });
