import { z } from 'zod';
import { key, timestamp } from './common.js';
import { timeZone } from './site.js';
import { problem } from './problem.js';

const flag = z.enum(['1']).optional();

export const takeBackupQuery = z.object({
  withoutKey: flag.meta({
    description: 'Leaves out the key that seals passwords of hosts, codes and webhooks.',
  }),
});

export const restoreQuery = z.object({
  quiet: flag.meta({
    description: 'For a copy to look at: no schedules, mails or webhooks come with it.',
  }),
});

export const bringSiteQuery = z.object({
  site: key.meta({ description: 'Key of the site in the backup.' }),
  as: key.optional().meta({ description: 'Its key here; the same when left out.' }),
});

/** A value that was sealed with a key that nobody has. */
export const lostSecret = z.object({
  kind: z.enum(['second-factor', 'host-access', 'webhook']),
  name: z.string().meta({ description: 'Login, host or address.' }),
  site: key.nullable(),
});
export type LostSecret = z.infer<typeof lostSecret>;

const ofBackup = z.object({
  madeAt: timestamp,
  version: z.string().meta({ description: 'Of the service that made it.' }),
});

const loading = z.object({
  type: z.literal('loading'),
  table: z.string(),
  rows: z.int(),
  of: z.int(),
});

const failed = z.object({ type: z.literal('failed'), problem });

export const restoreEvent = z.discriminatedUnion('type', [
  ofBackup.extend({ type: z.literal('begun'), rows: z.int().meta({ description: 'Of all tables.' }) }),
  loading,
  ofBackup.extend({
    type: z.literal('done'),
    sites: z.int(),
    members: z.int(),
    rows: z.int(),
    lost: z.array(lostSecret),
    isTrailWhole: z.boolean(),
  }),
  failed,
]);
export type RestoreEvent = z.infer<typeof restoreEvent>;

export const bringSiteEvent = z.discriminatedUnion('type', [
  ofBackup.extend({ type: z.literal('begun'), rows: z.int() }),
  loading,
  ofBackup.extend({
    type: z.literal('done'),
    site: key,
    name: z.string(),
    snippets: z.int(),
    releases: z.int(),
    hosts: z.array(z.string()),
    takenHosts: z.array(z.string()).meta({ description: 'They belong to another site here.' }),
    lost: z.array(lostSecret),
  }),
  failed,
]);
export type BringSiteEvent = z.infer<typeof bringSiteEvent>;

/** How many copies are kept: the last one of each of so many days, weeks and months. */
const keepRule = z.strictObject({
  days: z.int().min(0).max(366),
  weeks: z.int().min(0).max(520),
  months: z.int().min(0).max(240),
});

const recipient = z.string().max(3_000).meta({ description: 'A public key: `age1…`.' });

export const backupRuleInput = z
  .strictObject({
    isOn: z.boolean(),
    cron: z.string().min(1).max(100).meta({
      description: 'Minute, hour, day, month and weekday as in a crontab, such as `17 3 * * *`.',
    }),
    zone: timeZone,
    keep: keepRule,
    recipients: z
      .array(recipient)
      .max(20)
      .meta({ description: 'Whom backups are encrypted for; none leaves them readable.' }),
  })
  .meta({ id: 'BackupRuleInput' });
export type BackupRuleInput = z.infer<typeof backupRuleInput>;

export const backupRule = backupRuleInput
  .extend({
    words: z.string().meta({ description: 'When, in words, where there are simple ones.' }),
    nextAt: timestamp.nullable(),
    by: z.string().meta({ description: 'Who set it; empty where nobody has.' }),
    at: timestamp,
    folder: z.string().meta({ description: 'Where they lie.' }),
  })
  .meta({
    id: 'BackupRule',
    description: 'When backups are made by themselves, and how long they are kept.',
  });
export type BackupRuleResource = z.infer<typeof backupRule>;

export const keptBackup = z
  .object({
    id: z.int(),
    state: z.enum(['waiting', 'running', 'done', 'failed']),
    by: z.string().nullable().meta({ description: 'Who asked for it; null where it was its time.' }),
    machine: z.string().nullable().meta({ description: 'That it lies on.' }),
    file: z.string().nullable(),
    at: timestamp.meta({ description: 'The moment that it is of; until it is made, when it was asked for.' }),
    bytes: z.number().nullable(),
    sha256: z.string().nullable(),
    doneRows: z.int(),
    allRows: z.int().nullable(),
    isEncrypted: z.boolean(),
    isHere: z.boolean().meta({ description: 'Whether the service can read it.' }),
    problem: z.string().nullable(),
  })
  .meta({ id: 'KeptBackup' });
export type KeptBackup = z.infer<typeof keptBackup>;

export const backupList = z.object({ rule: backupRule, items: z.array(keptBackup) });
export type BackupList = z.infer<typeof backupList>;

export const backupContents = z.object({
  ...ofBackup.shape,
  rows: z.int(),
  sites: z.array(z.object({ key, name: z.string(), hosts: z.array(z.string()) })),
});
export type BackupContents = z.infer<typeof backupContents>;
