import { ANSWERED_BY, DELIVERY_KEYS, DEVICES, RUNGS } from '@pragmatica/core';
import { z } from 'zod';
import { environment, nextPage, path, timestamp } from './common.js';
import { cause } from './visit-cause.js';
import { thirdParties } from './watch.js';

const device = z.enum(DEVICES);
const rung = z.enum(RUNGS);

export const visitRoundInput = z
  .strictObject({
    environment: environment.default('live'),
    host: z.string().max(253).optional().meta({ description: 'The environment’s first host when left out.' }),
    pages: z
      .union([z.enum(['sample', 'all']), z.array(path).min(1).max(200)])
      .default('sample')
      .meta({
        description: 'A few that show every snippet on every kind of page, all known ones, or these.',
      }),
    devices: z
      .array(device)
      .min(1)
      .max(10)
      .optional()
      .meta({ description: 'Those that anything depends on when left out.' }),
    thirdParties: thirdParties
      .optional()
      .meta({ description: 'What other hosts get; as the site’s rules say when left out.' }),
    draft: z
      .boolean()
      .default(false)
      .meta({ description: 'Rehearses the draft: this browser alone gets it instead of what is published.' }),
    weigh: z.boolean().default(false).meta({
      description:
        'Weighs the pages instead: opens each with all snippets, without any and without each in turn, as somebody who has agreed to everything. A sample is three pages at most, and the device a phone unless others are named.',
    }),
  })
  .meta({ id: 'VisitRoundInput' });
export type VisitRoundInput = z.input<typeof visitRoundInput>;

export const visitRound = z
  .object({
    number: z.int(),
    host: z.string(),
    environment,
    delivery: z.enum(DELIVERY_KEYS),
    release: z.int().nullable(),
    state: z.enum(['waiting', 'running', 'done', 'cancelled', 'failed']),
    problem: z.string().nullable().meta({ description: 'Why it failed, in words.' }),
    browser: z.string().nullable(),
    isRehearsal: z.boolean().meta({ description: 'It tried the draft, which nobody else has got.' }),
    reason: z
      .enum(['schedule', 'release'])
      .nullable()
      .meta({ description: 'Why it began by itself; null where somebody asked for it.' }),
    confirms: z
      .int()
      .nullable()
      .meta({ description: 'Number of the round whose losses it looks at once more.' }),
    isWell: z.boolean().nullable().meta({ description: 'Null while it is not over.' }),
    isQuestion: z.boolean().meta({
      description: 'It was made to answer a question: why something does not show, what snippets cost.',
    }),
    isWeighing: z.boolean().meta({ description: 'It leaves snippets out in turn, to tell what each costs.' }),
    planned: z.int(),
    done: z.int(),
    requestedBy: z.string(),
    createdAt: timestamp,
    startedAt: timestamp.nullable(),
    endedAt: timestamp.nullable(),
  })
  .meta({ id: 'VisitRound', description: 'A round of visits of a real browser to pages of one host.' });
export type VisitRoundResource = z.infer<typeof visitRound>;

export const visitRoundList = z.object({ items: z.array(visitRound), next: nextPage });

export const visitSummary = z
  .object({
    number: z.int(),
    path: z.string(),
    device,
    title: z.string().meta({ description: 'Who comes, and what they do.' }),
    because: z.string(),
    state: z.enum(['waiting', 'running', 'done', 'failed']),
    failure: z.enum(['crashed', 'timeout', 'unreachable']).nullable(),
    durationMs: z.int().nullable(),
    missed: z.int().meta({ description: 'Snippets that did not come as far as they should have.' }),
  })
  .meta({ id: 'VisitSummary' });
export type VisitSummaryResource = z.infer<typeof visitSummary>;

const rungState = z.enum(['reached', 'failed', 'not-reached', 'none', 'waiting']);
const seenAt = z.object({ visit: z.int(), load: z.int(), path: z.string(), device });
const rectangle = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
const party = z.object({
  snippet: z.string().nullable(),
  name: z.string(),
  selector: z.string(),
  box: rectangle,
});
const owner = z.object({ snippet: z.string().nullable().optional(), via: z.array(z.string()).optional() });
const disclosure = z.object({
  snippet: z.string().nullable().optional(),
  name: z.string(),
  stored: z.array(z.object({ where: z.string(), key: z.string() })),
  hosts: z.array(z.object({ host: z.string(), requests: z.int() })),
});
const stage = z.object({
  stage: z.enum(['before', 'refused', 'accepted']),
  disclosures: z.array(disclosure),
});
const weight = z.object({
  snippet: z.string().nullable().optional(),
  name: z.string(),
  requests: z.int(),
  bytes: z.int(),
  blockingMs: z.int(),
});
const answeredBy = z.enum(ANSWERED_BY);
const reports = z.object({
  snippet: z.string().nullable().optional(),
  name: z.string(),
  host: z.string(),
  count: z.int(),
  by: z.partialRecord(answeredBy, z.int()).meta({ description: 'How many of them each answered.' }),
});
const report = z.object({
  ...{ snippet: z.string().nullable().optional(), name: z.string(), host: z.string(), url: z.string() },
  atMs: z.int(),
  by: answeredBy,
  status: z.int().nullable(),
  fields: z
    .array(z.object({ name: z.string(), value: z.string() }))
    .meta({ description: 'What was said, by name; plain text has none.' }),
});
const overlap = z.object({ upper: party, lower: party, shared: rectangle, advice: z.string() });
const covered = z.object({ by: party, control: party, covered: z.number(), canBeClosed: z.boolean() });
const doubled = z.object({
  kind: z.enum(['file', 'report']),
  url: z.string(),
  count: z.int(),
  sources: z.array(z.object({ snippet: z.string().nullable(), name: z.string(), via: z.array(z.string()) })),
});

const totals = z.object({
  requests: z.number(),
  bytes: z.number().meta({ description: 'As they came over the line.' }),
  blockingMs: z
    .number()
    .meta({ description: 'In tasks that kept the page from answering, beyond 50 ms each.' }),
  shift: z.number().meta({ description: 'How much jumped, as the Layout Instability API counts it.' }),
  readyMs: z.number().nullable().meta({ description: 'Until the page could be used.' }),
});

export const pageWeight = z.object({
  path: z.string(),
  device,
  full: totals.meta({ description: 'With all snippets.' }),
  bare: totals.meta({ description: 'Without any.' }),
  adds: totals.meta({ description: 'What all snippets add together.' }),
  snippets: z.array(z.object({ snippet: z.string(), name: z.string(), adds: totals })).meta({
    description:
      'What is missing without each of them, the heaviest first. Empty where too many run to leave out each.',
  }),
  sharedBytes: z.number().meta({ description: 'What goes only with several of them.' }),
  running: z.int().meta({ description: 'How many snippets run there.' }),
  isWithin: z.boolean().nullable().meta({ description: 'Null where the site has no budget.' }),
  sentence: z.string(),
  advice: z.string(),
});

export const weightQuery = z.object({
  round: z.coerce.number().int().min(1).optional().meta({ description: 'The newest one when left out.' }),
});

export const siteWeight = z
  .object({
    round: z.int(),
    host: z.string(),
    environment,
    release: z.int().nullable(),
    isRehearsal: z.boolean(),
    endedAt: timestamp.nullable(),
    budgetKb: z
      .int()
      .nullable()
      .meta({ description: 'What all snippets together may add to a page, in kB.' }),
    isWithin: z
      .boolean()
      .nullable()
      .meta({ description: 'Null where the site has no budget, or nobody can tell.' }),
    pages: z.array(pageWeight),
    failed: z
      .array(z.object({ path: z.string(), device }))
      .meta({ description: 'Pages that could not be weighed: a visit came to no end.' }),
  })
  .meta({
    id: 'Weight',
    description: 'What pages cost with snippets and without, and each snippet’s share.',
  });
export type WeightResource = z.infer<typeof siteWeight>;

export const roundSummary = z
  .object({
    isWell: z.boolean(),
    snippets: z.array(
      z.object({
        snippet: z.string(),
        name: z.string(),
        devices: z.array(z.object({ device, loads: z.int(), rungs: z.record(rung, rungState) })),
        problems: z.array(z.object({ rung, cause, at: z.array(seenAt) })),
        intruder: z.object({ message: z.string(), advice: z.string(), at: z.array(seenAt) }).nullable(),
        leftOut: z.string().nullable(),
      }),
    ),
    overlaps: z.array(overlap.extend({ at: z.array(seenAt) })),
    covered: z.array(covered.extend({ at: z.array(seenAt) })),
    doubled: z.array(doubled.extend({ at: z.array(seenAt) })),
    stages: z.array(stage),
    weights: z.array(weight),
    reports: z.array(reports).meta({ description: 'What each snippet told which host, and who answered.' }),
    failed: z.array(
      z.object({ visit: z.int(), path: z.string(), failure: z.enum(['crashed', 'timeout', 'unreachable']) }),
    ),
  })
  .meta({ id: 'RoundSummary', description: 'All that a round of visits found.' });
export type RoundSummaryResource = z.infer<typeof roundSummary>;

export const visitRoundDetail = z
  .object({ round: visitRound, visits: z.array(visitSummary), summary: roundSummary })
  .meta({ id: 'VisitRoundDetail' });
export type VisitRoundDetail = z.infer<typeof visitRoundDetail>;

/** One line of the stream that watching a round answers with. */
export const visitRoundEvent = z
  .discriminatedUnion('type', [
    z.object({ type: z.literal('progress'), round: visitRound }),
    z.object({ type: z.literal('visit'), visit: visitSummary }),
  ])
  .meta({ id: 'VisitRoundEvent' });
export type VisitRoundEvent = z.infer<typeof visitRoundEvent>;

const judgedLoad = z.object({
  url: z.string(),
  status: z.int().nullable(),
  snippets: z.array(
    z.object({
      snippet: z.string(),
      name: z.string(),
      expected: z.enum(['runs', 'waits', 'left-out']),
      because: z.string().optional(),
      rungs: z.array(
        z.object({
          rung,
          state: rungState,
          message: z.string(),
          cause: cause.optional(),
          notes: z.array(z.string()).optional(),
        }),
      ),
      missed: rung.optional(),
      isIntruder: z.boolean(),
    }),
  ),
  overlaps: z.array(overlap),
  covered: z.array(covered),
  doubled: z.array(doubled),
  stages: z.array(stage),
  weights: z.array(weight),
  ran: z
    .array(
      z.object({
        snippet: z.string().nullable().optional(),
        name: z.string(),
        file: z.string().nullable().meta({ description: 'Null for code in the page itself.' }),
        count: z.int(),
      }),
    )
    .optional()
    .meta({ description: 'The scripts that ran, in order.' }),
  reports: z.array(report).optional().meta({ description: 'What anybody was told, in order.' }),
});

const frame = z.object({ url: z.string(), line: z.int(), column: z.int() });

const seenLoad = z.object({
  url: z.string(),
  finalUrl: z.string(),
  status: z.int().nullable(),
  startedAt: timestamp,
  readyMs: z.int().nullable(),
  loadedMs: z.int().nullable(),
  endMs: z.int(),
  isHung: z.boolean(),
  window: z
    .object({ width: z.int(), height: z.int() })
    .meta({ description: 'What can be seen of the page at once, in its own pixels.' }),
  screenshot: z.int().nullable(),
  requests: z.array(
    z.object({
      url: z.string(),
      method: z.string(),
      kind: z.string(),
      status: z.int().nullable(),
      failure: z.string().nullable(),
      startMs: z.int(),
      endMs: z.int().nullable(),
      bytes: z.int(),
      owner,
    }),
  ),
  exceptions: z.array(z.object({ message: z.string(), atMs: z.int(), at: frame, owner })),
  console: z.array(
    z.object({
      level: z.enum(['error', 'warning', 'info']),
      text: z.string(),
      url: z.string(),
      atMs: z.int(),
    }),
  ),
  violations: z.array(z.object({ directive: z.string(), blocked: z.string(), isEnforced: z.boolean() })),
  globals: z.array(z.string()),
  elements: z.array(
    z.object({
      tag: z.string(),
      selector: z.string(),
      text: z.string(),
      box: rectangle,
      position: z.enum(['static', 'fixed', 'sticky']),
      isVisible: z.boolean(),
      hidden: z.string().nullable(),
      coveredBy: z.string().nullable(),
      owner,
    }),
  ),
  stored: z.array(z.object({ where: z.string(), key: z.string(), atMs: z.int(), owner })),
  views: z
    .array(z.string())
    .meta({ description: 'Where a single-page application moved on to, without a page load.' }),
  judged: judgedLoad.nullable(),
});

export const visitDetail = z
  .object({
    round: z.int(),
    visit: visitSummary,
    browser: z.string(),
    window: z.object({ width: z.int(), height: z.int() }),
    steps: z.array(
      z.object({
        words: z.string(),
        isDone: z.boolean().nullable(),
        note: z.string().nullable(),
        atMs: z.int().nullable(),
      }),
    ),
    loads: z.array(seenLoad),
  })
  .meta({ id: 'VisitDetail', description: 'What one visit saw, and what was concluded from it.' });
export type VisitDetail = z.infer<typeof visitDetail>;

export const screenshot = z
  .object({ type: z.enum(['image/jpeg', 'image/webp']), data: z.base64() })
  .meta({ id: 'Screenshot' });

export const visitPage = z
  .object({
    url: z.string(),
    html: z.string().meta({ description: 'As it came.' }),
    dom: z.string().meta({ description: 'As it stood at the end.' }),
  })
  .meta({ id: 'VisitPage' });

/** HTTP Archive 1.2. */
export const har = z.looseObject({ log: z.looseObject({ version: z.literal('1.2') }) }).meta({ id: 'Har' });
