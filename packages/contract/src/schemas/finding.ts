import { AREAS } from '@pragmatica/core';
import { z } from 'zod';
import { code, day, message, messageParams, placement, reason, statement } from './common.js';
import { orderLists } from './snippet.js';
import { says } from './says.js';

const range = z.object({ start: z.int(), end: z.int() });
const confidence = z.enum(['certain', 'likely', 'guess']);
const phase = z.enum(['parse', 'deferred', 'async', 'later']);
const fact = z.object({ range, confidence });

/** What was read out of a piece of code; see `Facts` in core. */
export const facts = z
  .object({
    language: z.enum(['markup', 'javascript', 'css', 'json', 'text']),
    bytes: z.int(),
    problems: z.array(
      fact.extend({
        kind: z.enum([
          'syntax',
          'unread',
          'ignored',
          'no-script-tags',
          'escaped',
          'curly-quotes',
          'json',
          'empty',
        ]),
        line: z.int(),
        column: z.int(),
        message: z.string(),
      }),
    ),
    loads: z.array(
      fact.extend({
        address: z.string(),
        kind: z.enum(['script', 'style', 'image', 'frame', 'font', 'data', 'hint']),
        by: z.enum(['tag', 'script', 'write']),
        mode: z.enum(['blocking', 'async', 'defer', 'module', 'none']),
        when: phase,
        noScript: z.boolean(),
      }),
    ),
    defines: z.array(
      fact.extend({
        name: z.string(),
        when: phase,
        what: z.enum(['function', 'object', 'array', 'value']),
        isStub: z.boolean(),
      }),
    ),
    uses: z.array(fact.extend({ name: z.string(), when: phase, isGuarded: z.boolean() })),
    needs: z.array(
      fact.extend({
        selector: z.string(),
        id: z.string().optional(),
        when: phase,
        isGuarded: z.boolean(),
        own: z.enum(['before', 'after']).optional(),
      }),
    ),
    makes: z.array(fact.extend({ id: z.string(), by: z.enum(['tag', 'script']) })),
    accounts: z.array(fact.extend({ value: z.string(), label: z.string(), domain: z.string().optional() })),
    settings: z.array(fact.extend({ name: z.string(), keys: z.array(z.string()) })),
    events: z.array(fact.extend({ name: z.string(), to: z.string() })),
    storage: z.array(
      fact.extend({
        where: z.enum(['cookie', 'localStorage', 'sessionStorage']),
        key: z.string().optional(),
      }),
    ),
    hosts: z.array(z.string()),
    boxes: z.array(fact.extend({ corner: z.string(), position: z.enum(['fixed', 'sticky']) })),
    writes: z.array(fact.extend({ when: phase })),
    marks: z.array(fact.extend({ kind: z.enum(['placeholder', 'test', 'secret']), value: z.string() })),
    pieces: z.array(z.object({ kind: z.string(), range, name: z.string() })),
    shape: z.object({ kind: z.string(), confidence: confidence, because: z.string() }),
  })
  .meta({ id: 'Facts', description: 'What a piece of code is and does, read without running it.' });

export const readInput = z
  .strictObject({
    code,
    statement: statement.default(''),
  })
  .meta({ id: 'ReadInput' });

export const reading = z
  .object({
    facts,
    words: z
      .array(z.object({ title: z.string(), lines: z.array(z.string()) }))
      .meta({ description: 'The facts in plain words.' }),
    parts: z
      .array(z.object({ code: z.string(), placement, because: z.string() }))
      .meta({ description: 'The parts that it is best kept in, and where each goes.' }),
    names: z
      .object({ name: z.string(), provider: z.string(), purpose: z.string() })
      .meta({ description: 'What it could be called.' }),
    recipe: z
      .object({ key: z.string(), name: z.string(), version: z.int() })
      .nullable()
      .meta({ description: 'The recipe that it is an install of.' }),
  })
  .meta({ id: 'Reading' });

export const severity = z.enum(['error', 'warning', 'advice']);

const setChange = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('edit-code'), part: z.string(), code: z.string() }),
  z.object({ kind: z.literal('move-part'), part: z.string(), placement }),
  z.object({ kind: z.literal('remove-part'), part: z.string() }),
  z.object({ kind: z.literal('switch-off'), snippet: z.string() }),
  z.object({
    kind: z.literal('edit-pages'),
    snippet: z.string(),
    pages: z.object({ include: z.array(z.string()), exclude: z.array(z.string()) }),
  }),
  z.object({ kind: z.literal('add-part'), snippet: z.string(), placement, code: z.string() }),
  z.object({ kind: z.literal('arrange'), lists: orderLists.shape.lists, moved: z.array(z.string()) }),
]);

export const waiver = z
  .object({
    finding: z.string(),
    fingerprint: z.string(),
    reason: z.string(),
    author: z.string(),
    until: day,
  })
  .meta({ id: 'Waiver', description: 'That somebody accepted a finding, until the end of a day.' });

export const waiverInput = z
  .strictObject({ reason, until: day.meta({ description: 'Last day on which it is accepted.' }) })
  .meta({ id: 'WaiverInput' });

export const finding = z
  .object({
    id: z.string().meta({ description: 'Stays while what it is about stays the same.' }),
    fingerprint: z
      .string()
      .meta({ description: 'Changes when what is found changes: how bad it is, or the code that shows it.' }),
    check: z.string(),
    area: z.enum(AREAS),
    severity,
    message: message.meta({ description: 'Which of the check’s messages says it, filled in with what.' }),
    title: z.string(),
    why: z.string(),
    advice: z.string(),
    subjects: z.array(z.object({ snippet: z.string(), name: z.string(), part: z.string().optional() })),
    evidence: z.array(
      z.object({
        part: z.string(),
        range,
        text: z.string(),
        line: z.int(),
        column: z.int(),
        role: z.string().meta({ description: 'What this place is in the finding.' }),
        params: messageParams.optional(),
        note: z.string().meta({ description: 'The role in words.' }),
      }),
    ),
    fix: z.object({ title: z.string(), changes: z.array(setChange) }).optional(),
  })
  .meta({ id: 'Finding' });

export type FindingResource = z.infer<typeof finding>;

const openFinding = finding.extend({
  lapsed: z
    .object({ waiver, cause: z.enum(['ended', 'changed']) })
    .optional()
    .meta({ description: 'It was accepted once; that has ended, or what it shows has changed.' }),
});
export type OpenFindingResource = z.infer<typeof openFinding>;

const waivedFinding = finding.extend({ waiver });
export type WaivedFindingResource = z.infer<typeof waivedFinding>;

export const findingCounts = z.object({
  error: z.int(),
  warning: z.int(),
  advice: z.int(),
  waived: z.int(),
});

export const findings = z.object({
  items: z.array(openFinding),
  waived: z.array(waivedFinding).meta({ description: 'What somebody has accepted.' }),
  counts: findingCounts.meta({ description: 'Of all findings of the set, whatever was asked for.' }),
  unknown: z
    .array(z.object({ ask: z.enum(['survey', 'files', 'hosts', 'recipes']), checks: z.array(z.string()) }))
    .meta({ description: 'What nobody knows of the site, and the checks that had to do without it.' }),
});

export const fixOneInput = z
  .strictObject({
    preview: z.boolean().default(false).meta({ description: 'Only say what would change.' }),
  })
  .meta({ id: 'FixOneInput' });

export const fixInput = fixOneInput
  .extend({
    findings: z
      .array(z.string().max(300))
      .min(1, says('findingMissing'))
      .max(10_000)
      .optional()
      .meta({ description: 'Ids of the findings to fix; all that can be when left out.' }),
  })
  .meta({ id: 'FixInput' });

const codeChange = z.object({
  part: z.string(),
  before: z.string(),
  after: z.string(),
});

export const fixResult = z
  .object({
    fixed: z.array(finding),
    changes: z.array(z.string()).meta({ description: 'What changes in the draft, in words.' }),
    code: z.array(codeChange).meta({ description: 'Code that changes, before and after.' }),
    left: z.array(openFinding),
  })
  .meta({ id: 'FixResult' });

export const orderReport = z
  .object({
    dependencies: z.array(
      z.object({
        first: z.string().meta({ description: 'Key of the part that has to come first.' }),
        then: z.string(),
        kind: z.enum(['name', 'element', 'settings', 'stated', 'recipe']),
        because: z.string(),
        verdict: z.enum(['fine', 'race', 'wrong']),
      }),
    ),
    ofPages: z
      .array(
        z.object({
          part: z.string().meta({ description: 'Key of the part that needs something.' }),
          name: z.string(),
          page: z.string().meta({ description: 'A page that makes it itself.' }),
          because: z.string(),
          verdict: z.enum(['fine', 'race', 'wrong']),
        }),
      )
      .meta({ description: 'What the parts need of the pages themselves, as the last survey saw them.' }),
    cycles: z.array(z.array(z.string())),
    moves: z.array(
      z.object({
        part: z.string(),
        placement,
        sentence: z.string(),
      }),
    ),
    lists: orderLists.shape.lists.meta({ description: 'The orders that would be right, where they differ.' }),
  })
  .meta({ id: 'OrderReport' });
