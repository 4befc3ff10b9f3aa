import { z } from 'zod';
import { key, newestQuery, nextPage, timestamp } from './common.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const findingId = z.string().min(1).max(300);

/** What a comment is on: one of the two. */
const subject = {
  snippet: key.nullable().meta({ description: 'Key of the snippet; null where it is on a finding.' }),
  finding: z.string().nullable().meta({ description: 'Id of the finding; null where it is on a snippet.' }),
  about: z.string().meta({ description: 'Name of the snippet, or title of the finding, as it was then.' }),
};

export const comment = z
  .object({
    id: z.int(),
    ...subject,
    text: z.string(),
    by: z.string(),
    byName: z.string().meta({ description: 'The login again, once they are no member any more.' }),
    at: timestamp,
    editedAt: timestamp.nullable(),
    doneBy: z.string().nullable().meta({ description: 'Who said that it is done with.' }),
    doneAt: timestamp.nullable(),
    canEdit: z.boolean(),
    canClose: z.boolean(),
    canRemove: z.boolean(),
  })
  .meta({ id: 'Comment', description: 'What somebody said of a snippet or of a finding.' });
export type CommentResource = z.infer<typeof comment>;

export const commentQuery = newestQuery.extend({
  snippet: key.optional().meta({ description: 'Only those on this snippet.' }),
  finding: findingId.optional().meta({ description: 'Only those on this finding.' }),
  state: z.enum(['open', 'done', 'all']).default('all'),
});

export const commentList = z.object({
  items: z.array(comment),
  open: z.int().meta({ description: 'How many of the site are not done with.' }),
  next: nextPage,
});

const text = z
  .string()
  .trim()
  .min(1, says('commentEmpty'))
  .max(4_000)
  .meta({ description: 'Plain text. An @ with a login mentions somebody, who gets a mail of it.' });

export const commentInput = z
  .strictObject({ text, snippet: key.optional(), finding: findingId.optional() })
  .refine((input) => (input.snippet === undefined) !== (input.finding === undefined), {
    path: ['snippet'],
    error: () => FIELD_TEXTS.commentOnOne,
  })
  .meta({ id: 'CommentInput' });

export const commentPatch = z
  .strictObject({ text, isDone: z.boolean() })
  .partial()
  .meta({ id: 'CommentPatch' });

/** A comment that was just written, and who hears of it. */
export const toldComment = comment
  .extend({
    told: z.array(z.string()).meta({ description: 'Logins of those who get a mail.' }),
    notTold: z
      .array(z.string())
      .meta({ description: 'Logins that it mentions, who get no mail: no address, or no mail server.' }),
    unknown: z.array(z.string()).meta({ description: 'Names after an @ that nobody has who sees the site.' }),
  })
  .meta({ id: 'ToldComment' });
export type ToldComment = z.infer<typeof toldComment>;

export const commented = z
  .object({ ...subject, open: z.int(), all: z.int() })
  .meta({ id: 'Commented', description: 'A snippet or finding that there are comments on.' });
export type Commented = z.infer<typeof commented>;
