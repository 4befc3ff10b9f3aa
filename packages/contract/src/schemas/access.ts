import { z } from 'zod';
import { timestamp } from './common.js';
import { says } from './says.js';

/** Names of headers and cookies are tokens (RFC 9110, 5.6.2); headers that frame a request are none of anybody's. */
const token = z
  .string()
  .max(100)
  .regex(/^[!#$%&'*+.^_`|~0-9A-Za-z-]{1,100}$/, says('tokenForm'))
  .refine(
    (name) =>
      !/^(?:host|connection|content-length|transfer-encoding|upgrade|te|trailer|keep-alive|expect)$/i.test(
        name,
      ),
    says('headerReserved'),
  );
// What may stand in a header; nothing that would begin another one.
const value = z
  .string()
  .min(1, says('secretMissing'))
  .max(2_000)
  .regex(/^[\x20-\x7e]*$/, says('plainCharacters'));

/** What opens a host that is not public. */
export const hostSecret = z
  .discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('basic'),
      name: z
        .string()
        .min(1, says('userMissing'))
        .max(200)
        .regex(/^[^:\p{Cc}]*$/u, says('noColon')),
      value: z.string().min(1, says('hostPasswordMissing')).max(2_000),
    }),
    z.strictObject({ kind: z.literal('header'), name: token, value }),
    z.strictObject({
      kind: z.literal('cookie'),
      name: token,
      value: value.regex(/^[^;,"\\ ]*$/, says('cookieValue')),
    }),
    z.strictObject({
      kind: z.literal('form'),
      name: z
        .string()
        .max(200)
        .default('')
        .meta({ description: 'Of the user; empty where only a password is asked for.' }),
      value: z.string().min(1, says('hostPasswordMissing')).max(2_000),
      page: z
        .string()
        .startsWith('/', says('pathForm'))
        .max(1_000)
        .default('/')
        .meta({ description: 'The page with the form.' }),
    }),
  ])
  .meta({ id: 'HostSecret', description: 'Kept encrypted and never shown again; used for this host only.' });
export type HostSecretInput = z.input<typeof hostSecret>;

export const hostAccess = z.object({
  host: z.string(),
  kind: z.enum(['basic', 'header', 'cookie', 'form']),
  by: z.string(),
  at: timestamp,
});
