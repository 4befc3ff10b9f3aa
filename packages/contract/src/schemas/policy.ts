import { DELIVERY_KEYS, PAGE_TYPES } from '@pragmatica/core';
import { z } from 'zod';
import { POLICY_MODES } from '../release-feed.js';
import { environment, key, timestamp } from './common.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

/** Directives and sources are written as they are into a header: nothing in them may end it, or begin another. */
const directive = z
  .string()
  .max(50)
  .regex(/^[a-z][a-z-]{1,40}$/, says('directiveForm'));
const source = z
  .string()
  .max(300)
  .regex(/^[!-+\--:<-~]+$/, says('sourceForm'));

export const ownPolicy = z
  .strictObject({
    directives: z
      .record(directive, z.array(source).max(100).readonly())
      .refine((directives) => Object.keys(directives).length <= 30, {
        error: () => FIELD_TEXTS.directivesMany,
      })
      .refine((directives) => !('report-uri' in directives) && !('report-to' in directives), {
        error: () => FIELD_TEXTS.reportsOurs,
      })
      .meta({ maxProperties: 30 }),
    allowed: z.array(z.strictObject({ directive, source })).max(200).readonly().default([]).meta({
      description: 'Allowed on all pages, those with a policy of their own included, wherever it has a say.',
    }),
    isStrict: z.boolean().meta({
      description:
        'Scripts run only with a nonce that is new for each answer, or by hash; what they load runs, too.',
    }),
  })
  .meta({
    id: 'OwnPolicy',
    description: 'For pages that come without a policy, before the snippets’ needs are added.',
  });

export const policyInput = z
  .strictObject({
    mode: z.enum(POLICY_MODES).meta({
      description:
        '"report" has browsers report what the policy would stop, "enforce" has them stop it; "off" leaves pages as they are.',
    }),
    fresh: z.boolean().default(false).meta({
      description: 'Take `own` from the newest survey again; what was allowed stays.',
    }),
    untried: z.boolean().default(false).meta({
      description: 'Enforce it though it was not on trial before.',
    }),
    own: ownPolicy
      .optional()
      .meta({ description: 'Left out, it stays as it is, or as the survey proposes it.' }),
  })
  .meta({ id: 'PolicyInput' });
export type PolicyInput = z.input<typeof policyInput>;
/** The same, read. */
export type PolicyOutput = z.output<typeof policyInput>;

const snippets = z.array(z.object({ key, name: z.string() }));
const added = z.array(z.object({ directive: z.string(), source: z.string() }));

export const policyReport = z.object({
  id: z.int(),
  directive: z.string(),
  blocked: z.string().meta({ description: 'Scheme and host, or inline, eval, data and their like.' }),
  source: z.string(),
  sample: z.string(),
  path: z.string().meta({ description: 'A page on which it happened.' }),
  isEnforced: z.boolean(),
  count: z.int(),
  firstAt: timestamp,
  lastAt: timestamp,
  snippet: z
    .object({ key, name: z.string() })
    .nullable()
    .meta({ description: 'Whose doing it was; null for the page’s own.' }),
  by: z.enum(['loads', 'file', 'code']).nullable(),
  message: z.string().meta({ description: 'What happened, and what to do, in words.' }),
  allow: z
    .object({ directive: z.string(), source: z.string() })
    .nullable()
    .meta({ description: 'What would let it in; null where nothing sensible does.' }),
});

export const policyView = z
  .object({
    host: z.string(),
    environment,
    delivery: z.enum(DELIVERY_KEYS),
    canSend: z
      .boolean()
      .meta({ description: 'The gateway delivers the host and can send a policy by itself.' }),
    mode: z.enum(POLICY_MODES),
    changed: z.object({ by: z.string(), at: timestamp }).nullable(),
    release: z.int().nullable(),
    survey: z.object({ number: z.int(), at: timestamp.nullable() }).nullable(),
    reportsTo: z.string(),
    own: ownPolicy,
    isProposed: z
      .boolean()
      .meta({ description: 'Nobody has decided on `own` yet: it is what the survey proposes.' }),
    reasons: z.array(z.string()),
    needs: z.array(z.object({ directive: z.string(), source: z.string(), snippets })),
    present: z.array(
      z.object({
        value: z.string(),
        from: z.enum(['header', 'meta']),
        isReportOnly: z.boolean(),
        pages: z.int(),
        example: z.string(),
        extended: z.string(),
        added,
        stopped: snippets,
        needNonce: snippets,
      }),
    ),
    kinds: z.array(
      z.object({
        type: z.enum(PAGE_TYPES),
        pages: z.int(),
        example: z.string(),
        snippets,
        isPresent: z.boolean(),
        policy: z.string(),
      }),
    ),
    reports: z.array(policyReport),
  })
  .meta({ id: 'ContentPolicy', description: 'Content policies of a host’s pages (CSP Level 3).' });
export type PolicyResource = z.infer<typeof policyView>;
