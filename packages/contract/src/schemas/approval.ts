import { z } from 'zod';
import { key, nextPage, reason, timestamp, title } from './common.js';
import { findingCounts } from './finding.js';

export const approvalState = z
  .enum(['open', 'approved', 'declined', 'withdrawn', 'void', 'published'])
  .meta({ description: '`void`: the draft has changed since it was asked for.' });

export const approvalRule = z.object({
  isNeeded: z.boolean().meta({ description: 'Whether somebody else approves what goes live.' }),
  since: timestamp.nullable(),
  by: z.string().nullable(),
});
export type ApprovalRuleResource = z.infer<typeof approvalRule>;

export const approvalRuleInput = z.strictObject({ isNeeded: z.boolean() });

export const approval = z.object({
  id: z.int(),
  message: z.string(),
  release: z.int().nullable().meta({ description: 'The release it is about; null for the draft.' }),
  state: approvalState,
  requestedBy: z.string(),
  requestedAt: timestamp,
  decidedBy: z.string().nullable(),
  decidedAt: timestamp.nullable(),
  note: z.string().meta({ description: 'What was said with the decision.' }),
  published: z.int().nullable().meta({ description: 'The release that it was published as.' }),
});
export type ApprovalResource = z.infer<typeof approval>;

export const approvalList = z.object({ rule: approvalRule, items: z.array(approval), next: nextPage });

export const approvalInput = z.strictObject({
  message: title.meta({ description: 'What changes, for whoever looks at it.' }),
  release: z.int().min(1).optional().meta({ description: 'A release; the draft when left out.' }),
});

const found = z.object({
  severity: z.enum(['error', 'warning', 'advice']),
  title: z.string(),
  isNew: z.boolean().meta({ description: 'Not found in what is live.' }),
});

export const approvalDetail = approval.extend({
  siteName: z.string(),
  changes: z
    .array(z.object({ message: z.string(), visible: z.boolean() }))
    .meta({ description: 'What differs from what is live; empty where it is void.' }),
  code: z.array(z.object({ part: z.string(), before: z.string(), after: z.string() })),
  findings: z.array(found).meta({ description: 'Errors, and warnings that are new.' }),
  counts: findingCounts,
  rehearsal: z
    .object({ round: z.int(), isWell: z.boolean() })
    .nullable()
    .meta({ description: 'The newest rehearsal of just this set.' }),
  weight: z
    .object({
      round: z.int(),
      bytes: z.int().meta({ description: 'What the snippets add to the heaviest page that was weighed.' }),
      requests: z.int(),
      budgetKb: z.number().nullable(),
      isWithin: z.boolean().nullable(),
    })
    .nullable()
    .meta({ description: 'The newest weighing of just this set.' }),
  whyNot: z
    .enum(['own', 'over'])
    .nullable()
    .meta({ description: 'Why whoever asks cannot decide; null where they can.' }),
});
export type ApprovalDetail = z.infer<typeof approvalDetail>;

export const approvalDecision = z.strictObject({
  decision: z.enum(['approved', 'declined']),
  note: reason.or(z.literal('')).default(''),
});

export const approvalLinkInput = z.strictObject({
  name: title.meta({ description: 'Whom it is for.' }),
  days: z.int().min(1).max(30).default(7),
});

export const approvalLink = z.object({
  path: z.string().meta({ description: 'Leads there; the secret stands behind the #.' }),
  until: timestamp,
});

const secret = z.string().min(20).max(100);
export const approvalSecret = z.strictObject({ secret });
export const approvalByLink = approvalDecision.extend({ secret });

export const approvalSheet = approvalDetail.extend({
  site: key,
  name: z.string().meta({ description: 'Whom the link was made for.' }),
  until: timestamp,
});
export type ApprovalSheet = z.infer<typeof approvalSheet>;
