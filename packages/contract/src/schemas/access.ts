import { z } from 'zod';
import { timestamp } from './common.js';

/** Names of headers and cookies are tokens (RFC 9110, 5.6.2); headers that frame a request are none of anybody's. */
const token = z
  .string()
  .regex(/^[!#$%&'*+.^_`|~0-9A-Za-z-]{1,100}$/, 'Use letters, digits and dashes.')
  .refine(
    (name) =>
      !/^(?:host|connection|content-length|transfer-encoding|upgrade|te|trailer|keep-alive|expect)$/i.test(
        name,
      ),
    'This header is the connection’s own.',
  );
// What may stand in a header; nothing that would begin another one.
const value = z
  .string()
  .min(1, 'Write what opens it.')
  .max(2_000)
  .regex(/^[\x20-\x7e]*$/, 'Use plain characters, without line breaks.');

/** What opens a host that is not public. */
export const hostSecret = z
  .discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('basic'),
      name: z
        .string()
        .min(1, 'Write the user’s name.')
        .max(200)
        .regex(/^[^:\p{Cc}]*$/u, 'A colon is not allowed here.'),
      value: z.string().min(1, 'Write the password.').max(2_000),
    }),
    z.strictObject({ kind: z.literal('header'), name: token, value }),
    z.strictObject({
      kind: z.literal('cookie'),
      name: token,
      value: value.regex(/^[^;,"\\ ]*$/, 'A cookie holds no spaces, quotes, commas or semicolons.'),
    }),
  ])
  .meta({ id: 'HostSecret', description: 'Kept encrypted and never shown again; used for this host only.' });
export type HostSecretInput = z.infer<typeof hostSecret>;

export const hostAccess = z.object({
  host: z.string(),
  kind: z.enum(['basic', 'header', 'cookie']),
  by: z.string(),
  at: timestamp,
});
