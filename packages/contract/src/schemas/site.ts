import { DELIVERY_KEYS } from '@pragmatica/core';
import { z } from 'zod';
import { field, fields } from './field.js';
import { findingCounts } from './finding.js';
import { consentRules, pageGroup, pageGroups } from './reach.js';
import { right } from './rights.js';
import { environment, key, nextPage, pageQuery, timestamp, title } from './common.js';
import { formatMessage } from '@pragmatica/core';
import { ENDS_HERE, refuseTwice } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const HOSTNAME =
  /^(?=.{1,253}$)[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)*$/;

const address = (example: string) =>
  z
    .url({ protocol: /^https?$/, error: () => formatMessage(FIELD_TEXTS.addressForm, { example }) })
    .max(2_000)
    .refine(
      (value) => URL.canParse(value) && ['', '/'].includes(new URL(value).pathname + new URL(value).search),
      says('originPath'),
    )
    .transform((value) => new URL(value).origin);

/** The addresses in a host's `origin`, which may name several with commas between them. */
export function originsOf(origin: string): string[] {
  return origin === '' ? [] : origin.split(',').map((part) => part.trim());
}

const ORIGIN = address('http://origin.example:8080');

const origins = z
  .string()
  .max(8_000, ENDS_HERE)
  .superRefine((value, context) => {
    for (const part of originsOf(value)) {
      const result = ORIGIN.safeParse(part);
      if (!result.success) context.addIssue({ code: 'custom', message: result.error.issues[0]!.message });
    }
  })
  .transform((value) =>
    originsOf(value)
      .map((part) => (URL.canParse(part) ? new URL(part).origin : part))
      .join(', '),
  );

/** How pages come from an origin. */
export const TRANSFERS = ['auto', 'plain', 'compressed'] as const;
export type Transfer = (typeof TRANSFERS)[number];

export const hostname = z.string().max(253).toLowerCase().regex(HOSTNAME, says('siteHostForm'));

export const host = z
  .strictObject({
    host: hostname,
    environment,
    delivery: z
      .enum(DELIVERY_KEYS)
      .default('gateway')
      .meta({ description: 'The way in which the host’s pages get their parts.' }),
    origin: origins.default('').meta({
      description:
        'Where the gateway fetches the pages; several, with commas between them, take turns. Of hosts that are delivered in other ways it may be left out: their pages are where visitors reach them.',
    }),
    address: address('https://www.example.com')
      .nullable()
      .default(null)
      .meta({ description: 'How visitors reach the host; http://<host> when null.' }),
    transfer: z.enum(TRANSFERS).default('auto').meta({
      description:
        'How pages come from the origin: plain, or compressed as visitors ask for it; "auto" is plain from near ones (this machine, private networks) and compressed from others.',
    }),
  })
  .meta({ id: 'Host' });
export type HostResource = z.infer<typeof host>;

export const timeZone = z
  .string()
  .max(100)
  .refine(isTimeZone, { error: () => FIELD_TEXTS.timeZoneForm });

const hosts = z
  .array(host)
  .max(50, ENDS_HERE)
  .superRefine((list, context) => {
    refuseTwice(list, 'host', context, FIELD_TEXTS.hostTwice);
    list.forEach((entry, index) => {
      if (entry.delivery === 'gateway' && entry.origin === '') {
        context.addIssue({
          code: 'custom',
          path: [index, 'origin'],
          message: FIELD_TEXTS.originMissing,
        });
      }
    });
  });

export const siteInput = z
  .strictObject({
    key: key.optional(),
    name: title,
    timeZone: timeZone.default('UTC'),
    hosts: hosts.default([]),
    pageGroups: pageGroups.default([]),
    consent: consentRules.nullable().default(null),
    fields: fields.default([]),
  })
  .meta({ id: 'SiteInput' });
export type SiteInput = z.input<typeof siteInput>;

export const sitePatch = z
  .strictObject({ name: title, timeZone, hosts, pageGroups, consent: consentRules.nullable(), fields })
  .partial()
  .meta({ id: 'SitePatch' });

export type SitePatch = z.input<typeof sitePatch>;

export const attention = z
  .object({
    kind: z.enum([
      'errors-found',
      'no-host',
      'own-origin',
      'local-origin',
      'never-published',
      'not-live',
      'steps-open',
    ]),
    message: z.string(),
  })
  .meta({ description: 'Something that needs the administrator.' });

/** A site as lists show it. */
export const siteSummary = z
  .object({
    key,
    name: title,
    timeZone: z.string(),
    hosts: z.array(host),
    environments: z
      .record(environment, z.int().nullable())
      .meta({ description: 'The release each environment serves.' }),
    snippets: z.object({ on: z.int(), off: z.int(), archived: z.int() }),
    pendingChanges: z.int().meta({ description: 'Differences between the live release and the draft.' }),
    attention: z.array(attention),
    findings: findingCounts.meta({ description: 'What the checks find in the draft.' }),
    isBeingChecked: z.boolean().meta({
      description:
        'Something was changed just now: counts, findings and attention are still those from before. Ask again in a moment.',
    }),
    rights: z.array(right).meta({ description: 'What you may do at the site.' }),
  })
  .meta({ id: 'SiteSummary' });
export type SiteSummaryResource = z.infer<typeof siteSummary>;

export const site = siteSummary
  .extend({
    pageGroups: z.array(pageGroup),
    consent: consentRules.nullable(),
    fields: z.array(field),
    version: z.int(),
    updatedBy: z.string(),
    updatedAt: timestamp,
  })
  .meta({ id: 'Site' });
export type SiteResource = z.infer<typeof site>;

export const siteQuery = pageQuery.extend({
  filter: z
    .enum(['all', 'attention', 'unpublished'])
    .default('all')
    .meta({ description: 'Those that need somebody, or those with changes that visitors do not get yet.' }),
  since: z
    .string()
    .max(19)
    .regex(/^\d{1,19}$/, says('afterForm'))
    .optional()
    .meta({ description: '`since` of an earlier list: only sites that have changed after it.' }),
});
export type SiteQuery = z.input<typeof siteQuery>;

export const siteList = z.object({
  items: z.array(siteSummary),
  next: nextPage,
  counts: z
    .object({ all: z.int(), attention: z.int(), unpublished: z.int() })
    .meta({ description: 'Sites that have the words, by filter.' }),
  since: z.string(),
});

export const sitePages = z.object({
  paths: z.array(z.string()),
  source: z.enum(['survey', 'sitemap', 'assumed']),
  message: z.string().meta({ description: 'Where the list comes from, in words.' }),
});

function isTimeZone(value: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: value });
    return true;
  } catch {
    return false;
  }
}
