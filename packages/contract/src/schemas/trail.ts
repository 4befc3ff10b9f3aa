import { z } from 'zod';
import { boundedRecord } from './bounds.js';
import { change, key, newestQuery, nextPage, pageQuery, timestamp } from './common.js';

const login = z.string().max(200);

export const activityQuery = pageQuery.extend({
  by: login.optional().meta({ description: 'Login of whoever did it.' }),
  snippet: key.optional().meta({ description: 'Only what changed this snippet.' }),
});
export type ActivityQuery = z.input<typeof activityQuery>;

export const trailQuery = pageQuery.extend({ by: login.optional() });

export const activityEntry = z.object({
  id: z.int(),
  action: z.string(),
  message: z.string(),
  ...change.shape,
  token: z.string().nullable().meta({ description: 'Name of the token that it was done with.' }),
  address: z
    .string()
    .nullable()
    .meta({ description: 'The IP address that it was asked from; only owners see it.' }),
  canUndo: z.boolean().meta({ description: 'Whether it changed the draft, so that it can be undone.' }),
});
export type ActivityEntry = z.infer<typeof activityEntry>;

export const activityList = z.object({ items: z.array(activityEntry), next: nextPage });

export const trailEntry = activityEntry.extend({
  site: key.nullable().meta({ description: 'Null where it is about the installation.' }),
  siteName: z.string().nullable(),
});
export const trailList = z.object({ items: z.array(trailEntry), next: nextPage });

export const activityDetail = activityEntry.extend({
  changes: z.array(
    z.object({
      kind: z.string().meta({ description: '`snippet`, `site`, `host`, `role` …' }),
      key: z.string(),
      name: z.string().meta({ description: 'What people call it.' }),
      was: z.enum(['added', 'changed', 'removed']),
      rows: z.array(z.object({ what: z.string(), before: z.string(), after: z.string() })),
      code: z
        .array(z.object({ part: z.string(), before: z.string(), after: z.string() }))
        .meta({ description: 'Code that is another, whole.' }),
    }),
  ),
});
export type ActivityDetail = z.infer<typeof activityDetail>;

export const undoChoice = z.enum(['now', 'before']);

export const undoBody = z.strictObject({
  only: z
    .array(key)
    .max(500)
    .optional()
    .meta({ description: 'Keys of snippets; only what was done to these is undone.' }),
  choices: boundedRecord(z.string().max(500), undoChoice, 1_000).default({}).meta({
    description: 'What is to be there where somebody changed it again since, by id of the conflict.',
  }),
  preview: z.boolean().default(false).meta({ description: 'Only says what would change.' }),
});

export const undone = z.object({
  isDone: z.boolean(),
  changes: z.array(z.string()).meta({ description: 'What changes in the draft, in words.' }),
  conflicts: z.array(z.object({ id: z.string(), what: z.string(), now: z.string(), before: z.string() })),
  gone: z.array(z.string()).meta({ description: 'Keys of snippets that it was about and that are gone.' }),
});
export type Undone = z.infer<typeof undone>;

export const removedSnippet = z.object({
  key,
  name: z.string(),
  entry: z.int().meta({ description: 'The entry of the activity that removed it: undo it.' }),
  ...change.shape,
});
export type RemovedSnippet = z.infer<typeof removedSnippet>;

export const chainHead = z.object({
  number: z.int().min(0).meta({ description: 'How many entries the chain has.' }),
  hash: z.string().meta({ description: 'SHA-256 of the last link and all before it, in hex.' }),
});

export const chainHeadQuery = z.strictObject({
  head: z
    .string()
    .max(75)
    .regex(/^\d{1,10}:[0-9a-f]{64}$/)
    .optional()
    .meta({ description: 'A head that was kept elsewhere: `number:hash`. It must be in the chain.' }),
});

export const trailCheckEvent = z.discriminatedUnion('type', [
  z.object({ type: z.literal('progress'), checked: z.int(), total: z.int() }),
  z.object({
    type: z.literal('done'),
    isWhole: z.boolean(),
    links: z.int(),
    entries: z.int().meta({ description: 'Those that are still kept.' }),
    faults: z.int(),
    problems: z
      .array(z.object({ number: z.int(), message: z.string(), at: timestamp.nullable() }))
      .meta({ description: 'The first of the faults.' }),
    head: chainHead,
  }),
]);
export type TrailCheckEvent = z.infer<typeof trailCheckEvent>;

export const removedQuery = newestQuery.pick({ limit: true });
