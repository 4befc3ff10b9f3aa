import { z } from 'zod';
import { code, placement } from './common.js';

const range = z.object({ start: z.int(), end: z.int() });
const sureness = z.enum(['certain', 'likely', 'guess']);
const moment = z.enum(['parse', 'deferred', 'async', 'later']);
const fact = z.object({ range, sure: sureness });

/** What was read out of a piece of code; see `Facts` in core. */
export const facts = z
  .object({
    language: z.enum(['markup', 'javascript', 'css', 'json', 'text']),
    bytes: z.int(),
    problems: z.array(
      fact.extend({
        kind: z.enum(['syntax', 'ignored', 'no-script-tags', 'escaped', 'curly-quotes', 'json', 'empty']),
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
        when: moment,
        noScript: z.boolean(),
      }),
    ),
    defines: z.array(
      fact.extend({
        name: z.string(),
        when: moment,
        what: z.enum(['function', 'object', 'array', 'value']),
        isStub: z.boolean(),
      }),
    ),
    uses: z.array(fact.extend({ name: z.string(), when: moment, isGuarded: z.boolean() })),
    needs: z.array(
      fact.extend({
        selector: z.string(),
        id: z.string().optional(),
        when: moment,
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
    writes: z.array(fact.extend({ when: moment })),
    marks: z.array(fact.extend({ kind: z.enum(['placeholder', 'test', 'secret']), value: z.string() })),
    pieces: z.array(z.object({ kind: z.string(), range, name: z.string() })),
    shape: z.object({ kind: z.string(), sure: sureness, because: z.string() }),
  })
  .meta({ id: 'Facts', description: 'What a piece of code is and does, read without running it.' });

export const readInput = z
  .strictObject({
    code,
    statement: z
      .string()
      .max(2000)
      .default('')
      .meta({ description: 'What the provider says of where the code goes.' }),
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
  })
  .meta({ id: 'Reading' });

export const severity = z.enum(['error', 'warning', 'advice']);

const setChange = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('edit-code'), part: z.string(), code: z.string() }),
  z.object({ kind: z.literal('move-part'), part: z.string(), placement }),
  z.object({ kind: z.literal('remove-part'), part: z.string() }),
  z.object({ kind: z.literal('switch-off'), snippet: z.string() }),
]);

export const finding = z
  .object({
    id: z.string().meta({ description: 'Stays while what it is about stays the same.' }),
    check: z.string(),
    area: z.enum(['placement', 'order', 'duplicates', 'activation', 'safety']),
    severity,
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
        note: z.string(),
      }),
    ),
    fix: z.object({ title: z.string(), changes: z.array(setChange) }).optional(),
  })
  .meta({ id: 'Finding' });

export type FindingResource = z.infer<typeof finding>;

export const findings = z.object({
  items: z.array(finding),
  counts: z
    .object({ error: z.int(), warning: z.int(), advice: z.int() })
    .meta({ description: 'Of all findings of the set, whatever was asked for.' }),
});

export const fixInput = z
  .strictObject({
    findings: z
      .array(z.string())
      .min(1, 'Name a finding, or leave the list out for all.')
      .max(10_000)
      .optional()
      .meta({ description: 'Ids of the findings to mend; all that can be when left out.' }),
    preview: z.boolean().default(false).meta({ description: 'Only say what would change.' }),
  })
  .meta({ id: 'FixInput' });

export const fixResult = z
  .object({
    mended: z.array(finding),
    changes: z.array(z.string()).meta({ description: 'What changes in the draft, in words.' }),
    left: findings.shape.items,
  })
  .meta({ id: 'FixResult' });
