import {
  ANCHOR_SIDES,
  KEY_PATTERN,
  NAMED_PLACEMENTS,
  PART_PERS,
  SelectorError,
  formatMessage,
  normalSelector,
} from '@pragmatica/core';
import { z } from 'zod';
import { ENDS_HERE } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

export const key = z
  .string()
  .regex(KEY_PATTERN, says('keyForm'))
  .max(63)
  .meta({ description: 'Names the thing in addresses and commands.', example: 'harbour-chat' });

export const environment = z.enum(['staging', 'live']);
export type Environment = z.infer<typeof environment>;

export const ENVIRONMENTS: readonly Environment[] = environment.options;

export const timestamp = z.iso.datetime().meta({ description: 'RFC 3339, in UTC.' });

const clockTime = z.object({ at: z.number(), zone: z.string(), now: z.number().optional() });

const calendarDate = z.object({ date: z.string(), isYearly: z.boolean().optional() });

/** What is filled in where something is said: texts, numbers, lists, dates, moments on the clocks of a time zone. */
export const messageParams = z.record(
  z.string(),
  z.union([z.string(), z.number(), z.array(z.string()).readonly(), clockTime, calendarDate]),
);

/** Something that is said, apart from its words: for clients with words of their own. */
export const message = z.object({ id: z.string(), params: messageParams });

/** One line of text that must hold something. */
export const title = z.string().trim().min(1).max(120);

export const text = z.string().max(2000);

const placementForm = (): string =>
  formatMessage(FIELD_TEXTS.placementForm, {
    placements: NAMED_PLACEMENTS.join(', '),
    sides: ANCHOR_SIDES.join(', '),
  });

export const placement = z
  .union(
    [
      z.enum(NAMED_PLACEMENTS),
      z.strictObject({ anchor: z.string().min(1).max(200), side: z.enum(ANCHOR_SIDES) }),
      z.strictObject({
        selector: z
          .string()
          .max(500, ENDS_HERE)
          .superRefine((text, context) => {
            const message = selectorFault(text);
            if (message !== undefined) context.addIssue({ code: 'custom', message });
          })
          .overwrite((text) => (selectorFault(text) === undefined ? normalSelector(text) : text)),
        side: z.enum(ANCHOR_SIDES),
      }),
    ],
    { error: placementForm },
  )
  .meta({ description: 'Where a part goes in the page.' });

/** A day, in the site's time zone. */
export const day = z.iso
  .date(says('dayForm'))
  .meta({ description: 'A day in the site’s time zone (RFC 3339 full-date).', example: '2027-03-31' });

/** Why somebody does something that is not the rule; it is read by others later. */
export const reason = z.string().trim().min(3, says('reasonMissing')).max(500);

export const statement = z
  .string()
  .max(2000)
  .meta({ description: 'What the provider says of where the code goes, word for word.' });

export const partPer = z.enum(PART_PERS).meta({
  description:
    'Once for a page load, or again whenever a single-page application shows another view; only the one line notices views.',
});

export const snippetState = z.enum(['on', 'off', 'archived']);

/** 512 KiB: far above any real snippet, far below what would hurt. */
export const MAX_CODE_LENGTH = 512 * 1024;

const NUL = '\0';

export const code = z
  .string()
  .min(1, says('codeMissing'))
  .max(MAX_CODE_LENGTH, says('codeTooLong'))
  .refine((value) => !value.includes(NUL), says('nullCharacter'));

export const change = z
  .object({ by: z.string(), at: timestamp })
  .meta({ description: 'Who changed it last, and when.' });

/** What every list that may be long takes: this one begins with the newest. */
export const newestQuery = z.strictObject({
  after: z.string().max(1_000).optional().meta({ description: '`next` of the page before.' }),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});

/** A page of a list that can be searched. */
export const pageQuery = newestQuery.extend({
  q: z.string().max(200).default('').meta({ description: 'Words that must all be there.' }),
});

export const nextPage = z
  .string()
  .nullable()
  .meta({ description: 'Pass it as `after` for the page that follows; null on the last one.' });

export const path = z.string().startsWith('/', says('pathForm')).max(1_000);

/** What is wrong with a selector, in words; undefined for nothing. */
function selectorFault(text: string): string | undefined {
  try {
    normalSelector(text);
    return undefined;
  } catch (error) {
    if (error instanceof SelectorError) return error.message;
    throw error;
  }
}
