import { DEVICES } from '@pragmatica/core';
import { z } from 'zod';
import { environment, placement, timestamp } from './common.js';
import { setReference } from './release.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

/** A day that the calendar has, and a time that clocks show. */
const LOCAL_TIME = /^(\d{4}-\d{2}-\d{2})(?:[T ](?:[01]\d|2[0-3]):[0-5]\d)?$/;

function isMoment(value: string): boolean {
  const day = LOCAL_TIME.exec(value)?.[1];
  const isReal =
    day === undefined
      ? z.iso.datetime({ offset: true }).safeParse(value).success
      : z.iso.date().safeParse(day).success;
  const year = Number(value.slice(0, 4));
  return isReal && year >= FIRST_YEAR && year <= LAST_YEAR;
}

/** Beyond, time zones are anybody's guess. */
const FIRST_YEAR = 1990;
const LAST_YEAR = 2199;

const at = z
  .string()
  .max(40)
  .refine(isMoment, {
    error: () => FIELD_TEXTS.momentForm,
  })
  .meta({ description: 'A local time at the site, or an RFC 3339 timestamp; now when left out.' });

/** What a page plan is asked for. */
export const planQuery = z.strictObject({
  path: z.string().startsWith('/', says('pathForm')).max(2_000).default('/'),
  of: setReference.optional().meta({ description: 'What the environment serves when left out.' }),
  host: z
    .string()
    .max(253)
    .optional()
    .meta({ description: 'One of the site’s hosts; it tells the environment.' }),
  environment: environment.optional(),
  at: at.optional(),
  device: z.enum(DEVICES).default('desktop'),
  consent: z
    .string()
    .max(2_000)
    .regex(/^(?:none|all|[a-z0-9-]+(?:,[a-z0-9-]+)*)?$/, says('consentForm'))
    .default('none'),
  visitor: z.enum(['first', 'returning']).optional(),
  width: z.coerce.number().int().min(1).max(100_000).optional(),
});
export type PlanQuery = z.input<typeof planQuery>;

const reason = z.object({
  reason: z.enum([
    'off',
    'archived',
    'no-code',
    'not-published',
    'excluded',
    'not-included',
    'environment',
    'device',
    'hours',
    'consent',
    'visitor',
    'window',
  ]),
  message: z.string(),
});

export const pagePlan = z
  .object({
    path: z.string(),
    of: z.string().meta({ description: 'Which set was planned, in words.' }),
    load: z
      .object({
        host: z.string(),
        environment,
        at: timestamp,
        localTime: z.string().meta({ description: 'The same on the site’s clock, in words.' }),
        device: z.enum(DEVICES),
        consent: z.array(z.string()),
        visitor: z.enum(['first', 'returning']).nullable(),
        width: z.int().nullable(),
      })
      .meta({ description: 'The page load that was asked about.' }),
    parts: z.array(
      z.object({
        key: z.string(),
        snippet: z.string(),
        name: z.string(),
        placement,
        code: z.string(),
        waits: z.string().optional().meta({ description: 'What the visitor’s browser waits for.' }),
      }),
    ),
    leftOut: z.array(
      reason.extend({
        snippet: z.string(),
        name: z.string(),
        reasons: z.array(reason).meta({ description: 'Every reason; the first is the one above.' }),
      }),
    ),
    until: timestamp
      .nullable()
      .meta({ description: 'When opening hours next change what this page load gets.' }),
    untilLocal: z.string().nullable(),
    draftChanges: z
      .array(z.string())
      .meta({ description: 'What the draft would give this page load otherwise, in words.' }),
  })
  .meta({ id: 'PagePlan' });
export type PagePlanResource = z.infer<typeof pagePlan>;

export const calendar = z
  .object({
    timeZone: z.string(),
    isOpen: z.boolean(),
    until: timestamp.nullable(),
    message: z.string().meta({ description: 'Whether it is on at that time and until when, in words.' }),
    days: z.array(
      z.object({
        date: z.string(),
        weekday: z.string(),
        rule: z.enum(['weekly', 'exception', 'closed', 'before-first', 'after-last']),
        on: z.array(z.object({ from: z.string(), to: z.string() })),
      }),
    ),
  })
  .meta({ id: 'Calendar', description: 'The hours of one week in which a snippet is on.' });

export const patternPreview = z
  .object({
    matched: z.array(z.string()).meta({ description: 'Known pages that the rules hold.' }),
    known: z.int(),
    words: z.string(),
    source: z.string().meta({ description: 'Where the known pages come from.' }),
  })
  .meta({ id: 'PatternPreview' });

export const calendarQuery = z.strictObject({ at: at.optional() });
export type CalendarResource = z.infer<typeof calendar>;
