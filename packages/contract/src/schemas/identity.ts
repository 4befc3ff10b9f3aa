import { z } from 'zod';
import { timestamp } from './common.js';

/** What a browser came back with from the identity provider. */
export const identityAnswer = z
  .strictObject({
    state: z
      .string()
      .max(2_000)
      .meta({ description: 'As it came with the address; it works once, for ten minutes.' }),
    answer: z
      .string()
      .max(8_000)
      .meta({ description: 'The query of the address that the browser came back to.' }),
  })
  .meta({ id: 'IdentityAnswer' });
export type IdentityAnswer = z.infer<typeof identityAnswer>;

/** Whether somebody proves who they are in one way. */
export function hasOneProof({ password, identity }: { password?: unknown; identity?: unknown }): boolean {
  return (password === undefined) !== (identity === undefined);
}

export const signInWays = z
  .object({
    identityProvider: z
      .object({ name: z.string() })
      .nullable()
      .meta({ description: 'Where people can sign in with what they have there; null where none is set.' }),
  })
  .meta({ id: 'SignInWays', description: 'How people can sign in, besides passwords and passkeys.' });

export const identityRequest = z
  .strictObject({
    isFresh: z.boolean().default(false).meta({
      description: 'Whether somebody who is signed in there must sign in anew, as confirming takes it.',
    }),
  })
  .meta({ id: 'IdentityRequest' });

export const identityAddress = z
  .object({
    address: z.string().meta({ description: 'Where to send the browser.' }),
    state: z.string().meta({ description: 'To be handed back with the answer.' }),
  })
  .meta({ id: 'IdentityAddress' });

export const identity = z
  .object({
    id: z.int(),
    name: z.string().meta({ description: 'As the provider calls it, such as a mail address.' }),
    issuer: z.string().meta({ description: 'The provider’s address.' }),
    createdAt: timestamp,
    lastUsedAt: timestamp.nullable(),
  })
  .meta({ id: 'Identity', description: 'Somebody at the identity provider who signs in as you.' });
export type IdentityResource = z.infer<typeof identity>;
