import { z } from 'zod';

export const liveQuery = z.strictObject({
  at: z
    .string()
    .max(200)
    .regex(/^[a-z0-9/_-]*$/)
    .optional()
    .meta({
      description:
        'Where you are in the site, as the console addresses it, like `snippets/chat`: others see it. Left out, nobody sees you.',
    }),
  editing: z
    .enum(['yes', 'no'])
    .default('no')
    .meta({ description: 'Whether you have changed something there that is not saved.' }),
});

const presentPerson = z.object({
  login: z.string(),
  name: z.string(),
  place: z.string(),
  isEditing: z.boolean(),
  isYou: z.boolean().meta({ description: 'You, in another window.' }),
});
export type PresentPersonResource = z.infer<typeof presentPerson>;

/** What is told to whoever follows a site. */
export const liveEvent = z
  .discriminatedUnion('type', [
    z.object({
      type: z
        .literal('people')
        .meta({ description: 'Who else is there: first of all, and when it changes.' }),
      people: z.array(presentPerson),
    }),
    z.object({
      type: z.literal('changed').meta({ description: 'Something is another: ask for it again.' }),
      what: z.enum(['site', 'comments']),
      by: z.string().nullable().meta({ description: 'Login of whoever did it; null where nobody knows.' }),
    }),
    z.object({ type: z.literal('still').meta({ description: 'Nothing happened; the line stands.' }) }),
  ])
  .meta({ id: 'LiveEvent' });
export type LiveEvent = z.infer<typeof liveEvent>;
