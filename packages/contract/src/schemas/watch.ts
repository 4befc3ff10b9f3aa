import { RUNGS, THIRD_PARTIES } from '@pragmatica/core';
import { z } from 'zod';
import { nextPage, timestamp } from './common.js';
import { hostname } from './site.js';
import { ENDS_HERE, refuseTwice } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const afterPublishing = z.enum(['nothing', 'look', 'put-back']).meta({
  description:
    'What follows a release: nothing; visits, whose losses are told; or that the former release is put back by itself where it lost what worked before.',
});

export const thirdParties = z.enum(THIRD_PARTIES).meta({
  description:
    'What other hosts get in a visit: their real answers; real files, but a stand-in answers what is reported, so that nobody counts the visit; or nothing.',
});

const hostAnswers = z
  .array(z.strictObject({ host: hostname, answer: thirdParties }))
  .max(50, ENDS_HERE)
  .superRefine((list, context) => {
    refuseTwice(list, 'host', context, FIELD_TEXTS.hostTwice);
  })
  .meta({ description: 'What single hosts get instead, each with all below it.' });

export const watchInput = z
  .strictObject({
    cron: z.string().min(1).max(100).nullable().default(null).meta({
      description:
        'When visits begin by themselves, in the site’s time zone, as in a crontab; null for never.',
    }),
    afterPublishing: afterPublishing.default('look'),
    needsRehearsal: z.boolean().default(false).meta({
      description: 'A draft is published only after visits that tried just that draft and went well.',
    }),
    mailTo: z
      .array(z.email(says('emailForm')).max(320))
      .max(20)
      .default([])
      .meta({
        description:
          'Who gets a mail when something is lost or comes back, approval is asked for or given, or a release goes out in spite of errors.',
      }),
    budgetKb: z.int().min(1).max(100_000).nullable().default(null).meta({
      description: 'What all snippets together may add to a page, in kB; null for no budget.',
    }),
    thirdParties: thirdParties.default('real'),
    hostAnswers: hostAnswers.default([]),
  })
  .meta({ id: 'WatchInput' });
export type WatchInput = z.input<typeof watchInput>;

export const webhook = z
  .object({ id: z.int(), url: z.string(), by: z.string(), at: timestamp })
  .meta({ id: 'Webhook' });

export const watch = z
  .object({
    cron: z.string().nullable(),
    words: z.string().nullable().meta({ description: 'The schedule in words.' }),
    nextAt: timestamp.nullable(),
    afterPublishing,
    needsRehearsal: z.boolean(),
    mailTo: z.array(z.string()),
    budgetKb: z.int().nullable(),
    thirdParties,
    hostAnswers,
    canMail: z.boolean().meta({ description: 'Whether this installation has a mail server to send by.' }),
    webhooks: z.array(webhook),
    hosts: z.array(
      z.object({
        host: z.string(),
        environment: z.enum(['staging', 'live']),
        followsPublishing: z
          .boolean()
          .meta({ description: 'Whether visits right after a release would find it.' }),
      }),
    ),
  })
  .meta({ id: 'Watch', description: 'How a site is watched, and who is told.' });
export type WatchResource = z.infer<typeof watch>;

/** What can be set of a watch, as it is: what somebody changes goes over it. */
export function watchSettings({
  cron,
  afterPublishing,
  needsRehearsal,
  mailTo,
  budgetKb,
  thirdParties: others,
  hostAnswers: answers,
}: WatchResource): Required<WatchInput> {
  return {
    ...{ cron, afterPublishing, needsRehearsal, mailTo, budgetKb },
    ...{ thirdParties: others, hostAnswers: answers },
  };
}

export const webhookInput = z
  .strictObject({
    url: z
      .url({
        protocol: /^https?$/,
        ...says('httpsAddress'),
      })
      .max(2_000),
  })
  .meta({ id: 'WebhookInput' });

export const webhookMade = webhook
  .extend({
    secret: z.string().meta({
      description: 'What its messages are signed with (Standard Webhooks); it is not shown again.',
    }),
  })
  .meta({ id: 'WebhookMade' });

export const watchHistoryQuery = z.strictObject({ host: z.string().max(253).optional() });

export const standingCell = z
  .object({
    round: z.int(),
    state: z.enum(['well', 'lost', 'waiting', 'left-out']),
    lostAt: z.enum([...RUNGS, 'out-of-reach']).nullable(),
    message: z.string(),
  })
  .meta({ id: 'StandingCell' });
export type StandingCellResource = z.infer<typeof standingCell>;

export const watchHistory = z
  .object({
    host: z.string(),
    rounds: z.array(z.object({ number: z.int(), at: timestamp, release: z.int().nullable() })).meta({
      description: 'The oldest first.',
    }),
    snippets: z.array(
      z.object({
        snippet: z.string().meta({ description: 'Empty for the pages themselves.' }),
        name: z.string(),
        cells: z.array(standingCell),
      }),
    ),
  })
  .meta({ id: 'WatchHistory', description: 'How snippets stood after each round of visits.' });
export type WatchHistoryResource = z.infer<typeof watchHistory>;

export const notice = z
  .object({
    id: z.int(),
    channel: z.enum(['webhook', 'mail']),
    target: z.string(),
    subject: z.string(),
    state: z.enum(['waiting', 'sent', 'failed']),
    attempts: z.int(),
    nextAt: timestamp.nullable(),
    answer: z.string().nullable().meta({ description: 'What came back last.' }),
    createdAt: timestamp,
    sentAt: timestamp.nullable(),
  })
  .meta({ id: 'Notice', description: 'Something that was told to somebody, and whether it arrived.' });
export type NoticeResource = z.infer<typeof notice>;

export const noticeList = z.object({ items: z.array(notice), next: nextPage });
