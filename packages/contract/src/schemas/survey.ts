import {
  ITEM_KINDS,
  ITEM_PLACES,
  ITEM_STATES,
  MATCH_KINDS,
  PAGE_TRAITS,
  PAGE_TYPES,
  STANDINGS,
} from '@pragmatica/core';
import { z } from 'zod';
import {
  environment,
  key,
  newestQuery,
  nextPage,
  pageQuery,
  path,
  reason,
  timestamp,
  title,
} from './common.js';
import { pages } from './reach.js';
import { boundedRecord } from './bounds.js';

/** Where a survey asks: where visitors do, or at the site's own server, behind Pragmatica. */
const side = z.enum(['public', 'origin']);

const MAX_SURVEY_PAGES = 200_000;

const askedSide = z.enum(['public', 'origin', 'both']).meta({
  description:
    'Where visitors ask, at the site’s own server, or both, one after the other. Where nothing stands between the two, both are one.',
});

export const surveyInput = z
  .strictObject({
    environment: environment.default('live'),
    host: z.string().max(253).optional().meta({ description: 'The environment’s first host when left out.' }),
    side: askedSide.default('public'),
    limit: z.int().min(1).max(MAX_SURVEY_PAGES).default(10_000).meta({ description: 'Pages at most.' }),
    paths: z
      .array(path)
      .max(50_000)
      .default([])
      .meta({ description: 'Pages to visit beside those that sitemaps and links lead to.' }),
    ignoreRobots: z.boolean().default(false).meta({
      description: 'Visits pages that robots.txt forbids, too. It is recorded who asked for it.',
    }),
    concurrency: z.int().min(1).max(16).default(4).meta({ description: 'Pages asked for at once.' }),
    delayMs: z.int().min(0).max(60_000).default(0).meta({
      description: 'Milliseconds between two requests; a delay that robots.txt states is kept as well.',
    }),
    given: z.uuid().optional().meta({
      description:
        'Reads the pages of this set that were handed over, and no others; nothing is asked of the site.',
    }),
  })
  .meta({ id: 'SurveyInput' });
export type SurveyInput = z.input<typeof surveyInput>;

const MAX_GIVEN_PAGES = 500;
const MAX_HEADERS = 100;
/** Of one page in Base64: more than a call takes. */
const MAX_GIVEN_BYTES = 4 << 20;

/** Pages that are handed over to be read, as a server would have answered. */
export const givenPagesInput = z
  .strictObject({
    pages: z
      .array(
        z.strictObject({
          path,
          status: z.int().min(200).max(599).optional(),
          headers: boundedRecord(z.string().max(200), z.string().max(20_000), MAX_HEADERS)
            .optional()
            .meta({ description: 'What tells of the page: its type, its policy.' }),
          body: z.base64().max(MAX_GIVEN_BYTES).meta({ description: 'Its bytes in Base64.' }),
        }),
      )
      .max(MAX_GIVEN_PAGES),
  })
  .meta({ id: 'GivenPagesInput' });
export type GivenPagesInput = z.infer<typeof givenPagesInput>;

/** What is asked of surveys that begin by themselves. */
export const surveyScheduleInput = z
  .strictObject({
    cron: z.string().min(1).max(100).meta({
      description:
        'When, in the site’s time zone: minute, hour, day, month and weekday as in a crontab, such as `0 6 * * 1`.',
    }),
    side: askedSide.default('public'),
    limit: surveyInput.shape.limit,
    ignoreRobots: surveyInput.shape.ignoreRobots,
    concurrency: surveyInput.shape.concurrency,
    delayMs: surveyInput.shape.delayMs,
  })
  .meta({ id: 'SurveyScheduleInput' });
export type SurveyScheduleInput = z.input<typeof surveyScheduleInput>;

export const surveySchedule = z
  .object({
    host: z.string(),
    cron: z.string(),
    words: z.string().meta({ description: 'The same in words, where there are simple ones.' }),
    nextAt: timestamp.nullable(),
    side: askedSide,
    limit: z.int(),
    ignoreRobots: z.boolean(),
    concurrency: z.int(),
    delayMs: z.int(),
    by: z.string(),
    at: timestamp,
  })
  .meta({ id: 'SurveySchedule', description: 'When surveys of a host begin by themselves.' });
export type SurveyScheduleResource = z.infer<typeof surveySchedule>;

export const survey = z
  .object({
    number: z.int(),
    host: z.string(),
    environment,
    side,
    state: z.enum(['waiting', 'running', 'done', 'cancelled', 'failed']),
    /** Why it failed, in words. */
    problem: z.string().nullable(),
    release: z.int().nullable().meta({ description: 'The release that pages were compared with.' }),
    limit: z.int(),
    ignoreRobots: z.boolean(),
    isGiven: z.boolean().meta({ description: 'Its pages were handed over.' }),
    found: z.int().meta({ description: 'Pages that it knows so far.' }),
    visited: z.int(),
    failed: z.int().meta({ description: 'Visited pages that could not be read.' }),
    unchanged: z.int().meta({ description: 'Visited pages that the site says are as they were.' }),
    after: z
      .int()
      .nullable()
      .meta({ description: 'The survey that it waits for: of both sides one is asked after the other.' }),
    notes: z.array(z.string()).meta({ description: 'What was left out, and why.' }),
    requestedBy: z.string(),
    createdAt: timestamp,
    startedAt: timestamp.nullable(),
    endedAt: timestamp.nullable(),
  })
  .meta({ id: 'Survey', description: 'A walk over the site’s real pages.' });
export type SurveyResource = z.infer<typeof survey>;

export const surveyList = z.object({ items: z.array(survey), next: nextPage });

/** One line of the stream that watching a survey answers with: how far it is, until it is over. */
export const surveyEvent = z.object({ type: z.literal('progress'), survey }).meta({ id: 'SurveyEvent' });
export type SurveyEvent = z.infer<typeof surveyEvent>;

const somePages = { pages: z.int(), example: z.string().meta({ description: 'The first of these pages.' }) };

export const surveySides = z
  .object({
    public: z.int().meta({ description: 'The survey of what visitors get.' }),
    origin: z.int().meta({ description: 'The survey of what the site’s own server sends.' }),
    ours: z
      .array(z.object({ snippet: z.string(), name: z.string(), pages: z.int() }))
      .meta({ description: 'What Pragmatica adds.' }),
    differences: z.array(
      z.object({
        what: z.enum(['added', 'removed', 'rewritten']),
        sighting: z.int().nullable(),
        name: z.string(),
        ...somePages,
      }),
    ),
    lines: z.array(z.string()).meta({ description: 'All that differs, in words.' }),
  })
  .meta({ id: 'SurveySides' });

/** A survey's number, or the newest that came to its end. */
export const surveyReference = z.union([z.literal('latest'), z.coerce.number().int().min(1)]);

const pageType = z.enum(PAGE_TYPES);
const trait = z.enum(PAGE_TRAITS);
const outcome = z.enum([
  'read',
  'redirect',
  'not-html',
  'too-large',
  'unreadable',
  'error',
  'unreachable',
  'forbidden',
]);

export const surveyedPage = z
  .object({
    path: z.string(),
    state: z.enum(['waiting', 'visited']),
    outcome: outcome.nullable(),
    status: z.int().nullable(),
    title: z.string(),
    type: pageType.nullable().meta({ description: 'A guess.' }),
    section: z.string(),
    foundBy: z.string(),
    language: z.string(),
    charset: z.string(),
    charsetFrom: z.string(),
    canonical: z.string().nullable().meta({ description: 'Where it says that it belongs, if elsewhere.' }),
    leadsTo: z.string().nullable(),
    traits: z.array(trait).meta({ description: 'What is unusual about it.' }),
    bytes: z.int().nullable(),
    expected: z.array(z.string()).meta({ description: 'Parts that the page plan asks for.' }),
    missing: z.array(z.string()).meta({ description: 'Those of them that are not there.' }),
  })
  .meta({ id: 'SurveyedPage' });
export type SurveyedPageResource = z.infer<typeof surveyedPage>;

export const surveyPageQuery = pageQuery.extend({
  section: z.string().max(1_000).optional(),
  type: pageType.optional(),
  only: z
    .enum(['all', 'problems', 'missing', 'redirects'])
    .default('all')
    .meta({ description: 'Pages that could not be read, that lack a part, or that lead elsewhere.' }),
  trait: trait.optional(),
  sighting: z.coerce.number().int().optional().meta({ description: 'Pages on which it stands.' }),
});

export const surveyPageList = z.object({
  items: z.array(surveyedPage),
  next: nextPage,
  total: z.int(),
  traits: z
    .array(z.object({ trait, pages: z.int(), example: z.string() }))
    .meta({ description: 'What is unusual about pages of the survey, whatever the filter.' }),
});

const match = z.object({
  snippet: z.string(),
  part: z.string(),
  kind: z.enum(MATCH_KINDS),
  account: z.string().optional(),
});

export const sighting = z
  .object({
    id: z.int(),
    kind: z.enum(ITEM_KINDS),
    name: z.string(),
    provider: z.string(),
    standing: z.enum(STANDINGS).meta({
      description:
        'ours: a snippet put it there; copy: what a snippet installs stands there as well; altered: what a snippet installs, changed; foreign: nothing that Pragmatica knows.',
    }),
    match: match.nullable(),
    words: z.string().meta({ description: 'What it is and how it stands to the snippets, in one sentence.' }),
    accounts: z.array(z.string()),
    loads: z.array(z.string()),
    states: z.array(z.enum(ITEM_STATES)),
    places: z.array(z.enum(ITEM_PLACES)),
    pages: z.int(),
    examples: z.array(z.string()).meta({ description: 'The first of its pages.' }),
    ignored: z.object({ reason: z.string(), by: z.string(), at: timestamp }).nullable(),
    adopted: z.object({ snippet: key, by: z.string(), at: timestamp }).nullable(),
  })
  .meta({ id: 'Sighting', description: 'A thing in the site’s pages, on however many of them.' });
export type SightingResource = z.infer<typeof sighting>;

export const sightingQuery = newestQuery.extend({
  standing: z.enum(STANDINGS).optional(),
  q: z.string().max(200).default(''),
  ignored: z.enum(['hide', 'show', 'only']).default('hide'),
  own: z.enum(['hide', 'show']).default('show').meta({
    description: 'The site’s own style sheets, files and notes for machines: most of what there is.',
  }),
});

export const sightingList = z.object({
  items: z.array(sighting),
  next: nextPage,
  counts: z.record(z.enum(STANDINGS), z.int()).meta({ description: 'By standing; without those ignored.' }),
  survey,
});

export const sightingDetail = sighting
  .extend({
    code: z.string(),
    before: z.string().meta({ description: 'What stands before it in the first page.' }),
    after: z.string(),
    firstPath: z.string(),
    proposal: z
      .object({ name: z.string(), placement: z.string(), rules: pages, words: z.string() })
      .meta({ description: 'How it would be adopted: the shortest page rules that hold just its pages.' }),
    companions: z
      .array(z.object({ id: z.int(), name: z.string(), kind: z.string() }))
      .meta({ description: 'Of the same provider on the same pages: most likely pieces of one install.' }),
    files: z
      .array(
        z.object({
          address: z.string(),
          status: z.int().nullable().meta({ description: 'Null where its server did not answer.' }),
          bytes: z.int(),
          changedAt: z.string().nullable().meta({ description: 'As its server says, an HTTP date.' }),
          isRead: z.boolean(),
          cookies: z.array(z.string()),
          stores: z.array(z.string()),
          hosts: z.array(z.string()),
          defines: z.array(z.string()),
        }),
      )
      .meta({ description: 'Scripts and style sheets that it loads, and what they do.' }),
    ourCode: z.string().nullable().meta({ description: 'For what is altered: the code that we have.' }),
    removal: z.string().meta({ description: 'Where in the site it stands, and so where to remove it.' }),
  })
  .meta({ id: 'SightingDetail' });

export const adoption = z
  .strictObject({
    name: title.optional(),
    key: key.optional(),
    pages: pages.optional().meta({ description: 'Those of the proposal when left out.' }),
    with: z
      .array(z.int())
      .max(19)
      .default([])
      .meta({ description: 'Further sightings that become parts of the same snippet.' }),
  })
  .meta({ id: 'Adoption' });

export const adopted = z.object({ snippet: key, words: z.string() });

export const ignoring = z.strictObject({ reason });

const cell = z.object({ expected: z.int(), present: z.int() });

export const coverage = z
  .object({
    survey,
    rows: z.array(
      z.object({
        section: z.string(),
        type: pageType,
        pages: z.int(),
        cells: z.record(z.string(), cell).meta({ description: 'By snippet key.' }),
      }),
    ),
    snippets: z.array(cell.extend({ snippet: z.string(), name: z.string(), words: z.string() })),
  })
  .meta({
    id: 'Coverage',
    description: 'Pages × snippets: what the plan asks for, against what stands there.',
  });
export type CoverageResource = z.infer<typeof coverage>;

const pageItem = z.object({
  sighting: z.int().nullable(),
  name: z.string(),
  kind: z.string(),
  state: z.string(),
  place: z.string(),
  standing: z.enum(STANDINGS),
  isOwnFile: z.boolean().meta({ description: 'A file, style or note of the site itself.' }),
  part: z.string().nullable(),
  snippet: z.string().nullable(),
  start: z
    .int()
    .nullable()
    .meta({ description: 'Where it begins in the page’s text, in UTF-16 code units.' }),
});

export const pageDetail = surveyedPage
  .extend({
    items: z
      .array(pageItem)
      .meta({ description: 'All that loads, runs or frames something, in document order.' }),
    policies: z.array(z.object({ value: z.string(), from: z.string(), isReportOnly: z.boolean() })),
    permissionsPolicy: z
      .string()
      .nullable()
      .meta({ description: 'Its header Permissions-Policy, as it is sent.' }),
    embedderPolicy: z
      .string()
      .nullable()
      .meta({ description: 'Its header Cross-Origin-Embedder-Policy, as it is sent.' }),
  })
  .meta({ id: 'SurveyedPageDetail' });

export const surveyChanges = z
  .object({
    from: z.int().nullable(),
    to: z.int(),
    lines: z.array(z.string()).meta({ description: 'What differs, in words, the most important first.' }),
    newPages: z.array(z.string()),
    gonePages: z.array(z.string()),
  })
  .meta({ id: 'SurveyChanges' });
