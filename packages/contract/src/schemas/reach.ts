import {
  DEVICES,
  WEEKDAYS,
  consentPathProblem,
  hoursProblems,
  isGroupReference,
  pagePatternProblem,
} from '@pragmatica/core';
import { z } from 'zod';
import { environment, key, title } from './common.js';
import { ENDS_HERE, refuseTwice } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const MAX_PATTERNS = 200;

/** An entry of page rules: a pattern, or a page group where these are allowed. */
const pageEntry = (areGroupsAllowed: boolean) =>
  z
    .string()
    .max(500, ENDS_HERE)
    .superRefine((pattern, context) => {
      const problem =
        !areGroupsAllowed && isGroupReference(pattern)
          ? FIELD_TEXTS.groupInGroup
          : pagePatternProblem(pattern);
      if (problem !== undefined) context.addIssue({ code: 'custom', message: problem });
    });

const pageEntries = z.array(pageEntry(true)).max(MAX_PATTERNS, ENDS_HERE).default([]);

export const pages = z
  .strictObject({
    include: pageEntries.meta({
      description:
        'URLPattern patterns: "/path", "/path?search" or "//host/path", or page groups as "@key"; none means every page.',
    }),
    exclude: pageEntries,
  })
  .meta({ description: 'On which pages a snippet runs.' });

export const pageGroup = z
  .strictObject({
    key,
    name: title,
    patterns: z.array(pageEntry(false)).min(1, says('patternMissing')).max(MAX_PATTERNS, ENDS_HERE),
  })
  .meta({ id: 'PageGroup', description: 'Pages of a site that belong together, defined once.' });

/** Long enough for any time or day; what is wrong with one is said in its own words. */
const moment = z.string().max(40);
const span = z.strictObject({ from: moment, to: moment });
const spans = z.array(span).max(12, ENDS_HERE).readonly();

export const hours = z
  .strictObject({
    weekly: z.partialRecord(z.enum(WEEKDAYS), spans).optional(),
    closed: z.array(moment).max(100, ENDS_HERE).readonly().optional(),
    exceptions: z
      .array(z.strictObject({ date: moment, spans }))
      .max(200, ENDS_HERE)
      .readonly()
      .optional(),
    first: moment.optional(),
    last: moment.optional(),
  })
  .superRefine((value, context) => {
    for (const { path, message } of hoursProblems(value))
      context.addIssue({ code: 'custom', path: [...path], message });
  })
  .meta({
    id: 'Hours',
    description:
      'Opening hours by the clock of the site: spans like 09:00 to 17:30 by weekday (those that end before they begin go on over midnight), days closed every year (12-25), single days (2027-05-01), first and last day.',
  });

export type HoursResource = z.infer<typeof hours>;

const days = z.number().min(0).max(3650);

const visitor = z
  .strictObject({
    who: z.enum(['first', 'returning']).optional(),
    afterSeconds: z.number().min(0).max(3600).optional(),
    afterScroll: z.number().min(0).max(100).optional(),
    onLeaving: z.boolean().optional(),
    everyDays: days.optional(),
    minWidth: z.int().min(0).max(100_000).optional(),
    maxWidth: z.int().min(0).max(100_000).optional(),
  })
  .meta({
    description: 'What only the visitor’s browser can know; a small script around the parts waits for it.',
  });

/** What bounds a reach beside the pages. */
export const limits = z
  .strictObject({
    environment: environment.optional(),
    devices: z.array(z.enum(DEVICES)).min(1, says('deviceMissing')).max(3).readonly().optional(),
    hours: hours.optional(),
    consent: z.array(key).max(20).readonly().optional(),
    visitor: visitor.optional(),
  })
  .meta({
    id: 'Limits',
    description: 'What bounds a snippet’s reach beside its pages; what is left out bounds nothing.',
  });

/** A name of a cookie (RFC 6265, 4.1.1). */
const COOKIE_NAME = /^[!#$%&'*+\-.^_`|~0-9A-Za-z]+$/;

export const consentRules = z
  .strictObject({
    categories: z
      .array(z.strictObject({ key, name: title, value: z.string().min(1).max(100).optional() }))
      .min(1, says('purposeMissing'))
      .max(30, ENDS_HERE)
      .superRefine((list, context) => {
        refuseTwice(list, 'key', context, FIELD_TEXTS.purposeTwice);
      }),
    cookie: z.string().max(200).regex(COOKIE_NAME, says('cookieName')),
    format: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('list') }),
      z.strictObject({
        kind: z.literal('json'),
        path: z
          .string()
          .max(300)
          .superRefine((path, context) => {
            const problem = consentPathProblem(path);
            if (problem !== null) context.addIssue({ code: 'custom', message: problem });
          }),
      }),
    ]),
  })
  .meta({
    id: 'ConsentRules',
    description: 'The purposes that visitors are asked about, and the cookie that keeps their answer.',
  });

export const pageGroups = z
  .array(pageGroup)
  .max(100, ENDS_HERE)
  .superRefine((list, context) => {
    refuseTwice(list, 'key', context, FIELD_TEXTS.keyTwice);
  });
