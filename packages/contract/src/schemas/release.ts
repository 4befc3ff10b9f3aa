import { formatMessage, type Snapshot } from '@pragmatica/core';
import { z } from 'zod';
import {
  MAX_CODE_LENGTH,
  change,
  environment,
  key,
  nextPage,
  partPer,
  placement,
  reason,
  snippetState,
  statement,
  text,
  timestamp,
  title,
} from './common.js';
import { consentRules, limits, pageGroups, pages } from './reach.js';
import { fields } from './field.js';
import { recipeLink } from './recipe.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

/** More than a site that anybody looks after has. */
const MAX_SNIPPETS = 10_000;

const snapshotPart = z.strictObject({
  placement,
  rank: z.int().min(0),
  code: z.string().max(MAX_CODE_LENGTH, says('codeTooLong')),
  statement: statement.optional(),
  per: partPer.optional(),
});

const snapshotSnippet = z.strictObject({
  key,
  name: title,
  purpose: text.default(''),
  provider: text.default(''),
  note: text.default(''),
  state: snippetState.default('on'),
  pages: pages.default({ include: [], exclude: [] }),
  limits: limits.optional(),
  stateSince: z.strictObject({ at: timestamp, by: z.string().max(200) }).optional(),
  needs: z.array(key).max(500).optional(),
  recipe: recipeLink.optional(),
  parts: z.array(snapshotPart).max(100),
});

/** The file format of a snippet set: what a release holds and what `insert --set` reads. */
const SET_FORMAT = 'pragmatica-set/1';

export const snapshot = z
  .strictObject({
    format: z.literal(SET_FORMAT, {
      error: () => formatMessage(FIELD_TEXTS.formatOther, { format: SET_FORMAT }),
    }),
    site: z.strictObject({
      key,
      name: title,
      timeZone: z.string().max(100),
      pageGroups: pageGroups.optional(),
      consent: consentRules.optional(),
      fields: fields.optional(),
    }),
    snippets: z.array(snapshotSnippet).max(MAX_SNIPPETS),
  })
  .meta({ id: 'Snapshot', description: 'A whole snippet set at one moment.' }) satisfies z.ZodType<Snapshot>;

export const draft = z
  .object({ snapshot, digest: z.string(), lastChange: change.nullable() })
  .meta({ id: 'Draft' });

export const forced = z
  .object({
    reason: z.string(),
    findings: z.array(z.object({ id: z.string(), check: z.string(), title: z.string() })),
  })
  .meta({ id: 'Forced', description: 'Why it was published although errors were found, and which.' });
export type ForcedRelease = z.infer<typeof forced>;

export const releaseSummary = z
  .object({
    number: z.int(),
    message: z.string(),
    author: z.string(),
    createdAt: timestamp,
    digest: z
      .string()
      .meta({ description: 'SHA-256 of the canonical JSON (RFC 8785) of the snapshot, in hex.' }),
    environments: z.array(environment).meta({ description: 'Which environments serve it now.' }),
    snippets: z.int().meta({ description: 'How many snippets were on.' }),
    forced: forced.nullable().meta({ description: 'Null where no error was found.' }),
  })
  .meta({ id: 'ReleaseSummary' });
export type ReleaseSummary = z.infer<typeof releaseSummary>;

export const releaseList = z.object({ items: z.array(releaseSummary), next: nextPage });

export const release = releaseSummary.extend({ snapshot }).meta({ id: 'Release' });

export const releaseInput = z
  .strictObject({
    message: title.meta({ description: 'What this release changes, for the people who look for it later.' }),
    environments: z.array(environment).min(1).max(2).default(['staging', 'live']),
    force: reason
      .optional()
      .meta({ description: 'Why to publish although errors are found; kept in the release.' }),
  })
  .meta({ id: 'ReleaseInput' });

/** A release just published: of the draft that was seen. */
export const published = releaseSummary
  .extend({
    meanwhile: z.array(z.string()).meta({
      description: 'What others changed in the draft since it was seen, in words; it is not in the release.',
    }),
  })
  .meta({ id: 'Published' });

export const environmentState = z
  .object({
    environment,
    release: z.int().nullable(),
    changedBy: z.string().nullable(),
    changedAt: timestamp.nullable(),
  })
  .meta({ id: 'EnvironmentState' });

/** What can be compared or planned: the draft, what an environment serves, or a release by number. */
export const setReference = z
  .string()
  .max(20)
  .regex(/^(draft|live|staging|\d{1,9})$/, says('setForm'));

export const changeInWords = z.object({
  kind: z.enum([
    'added',
    'removed',
    'state',
    'pages',
    'reach',
    'site',
    'field',
    'code',
    'parts',
    'placement',
    'details',
    'order',
  ]),
  snippet: z.string(),
  message: z.string(),
  visible: z.boolean().meta({ description: 'Whether visitors get something else.' }),
});

export const diff = z
  .object({ from: z.string(), to: z.string(), changes: z.array(changeInWords) })
  .meta({ id: 'Diff' });

/** A snippet as a release holds it. */
export const snippetVersion = z
  .object({
    release: z.int(),
    message: z.string(),
    author: z.string(),
    createdAt: timestamp,
    changes: z.array(z.string()).meta({ description: 'What that release changed about it, in words.' }),
    snippet: snapshotSnippet
      .nullable()
      .meta({ description: 'How it was from then on; null once it is gone.' }),
  })
  .meta({ id: 'SnippetVersion' });
export type SnippetVersion = z.infer<typeof snippetVersion>;
