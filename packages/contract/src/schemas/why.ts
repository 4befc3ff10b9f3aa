import { WHY_STEPS } from '@pragmatica/core';
import { z } from 'zod';
import { environment, key, timestamp } from './common.js';
import { planQuery } from './plan.js';
import { cause } from './visit-cause.js';
import { visitSummary } from './visit.js';

export const whyInput = z
  .strictObject({
    snippet: key,
    path: planQuery.shape.path,
    host: planQuery.shape.host,
    environment: planQuery.shape.environment,
    at: planQuery.shape.at,
    device: planQuery.shape.device,
    consent: planQuery.shape.consent,
    visitor: planQuery.shape.visitor,
    visit: z
      .boolean()
      .default(true)
      .meta({ description: 'Goes and looks, where settings alone do not tell.' }),
  })
  .meta({ id: 'WhyInput' });
export type WhyInput = z.input<typeof whyInput>;

export const whyAnswer = z
  .object({
    snippet: z.string(),
    name: z.string(),
    isWell: z.boolean().nullable().meta({ description: 'Null while only a visit can tell.' }),
    sentence: z.string(),
    steps: z.array(
      z.object({
        step: z.enum(WHY_STEPS),
        title: z.string(),
        state: z.enum(['passed', 'failed', 'none', 'open', 'not-reached']),
        message: z.string(),
        cause: cause.optional(),
        notes: z.array(z.string()).optional(),
      }),
    ),
    stopsAt: z.enum(WHY_STEPS).optional(),
    cause: cause.optional(),
    until: timestamp.nullable(),
    untilWords: z.string().nullable(),
    hints: z.array(z.string()),
    question: z.string().meta({ description: 'The page load that was asked about, in words.' }),
  })
  .meta({
    id: 'WhyAnswer',
    description: 'How far a snippet comes, why not further, and who can change that.',
  });
export type WhyAnswerResource = z.infer<typeof whyAnswer>;

/** One line of the stream: what settings tell at once, then what a visit saw. */
export const whyEvent = z
  .discriminatedUnion('type', [
    z.object({ type: z.literal('settings'), answer: whyAnswer, isFinal: z.boolean() }),
    z.object({ type: z.literal('visiting'), round: z.int() }),
    z.object({ type: z.literal('answer'), answer: whyAnswer, round: z.int(), visit: z.int() }),
  ])
  .meta({ id: 'WhyEvent' });
export type WhyEvent = z.infer<typeof whyEvent>;

export const troubleInput = z
  .strictObject({
    path: planQuery.shape.path,
    host: planQuery.shape.host,
    environment: environment.default('live'),
    device: planQuery.shape.device,
    about: z
      .array(z.enum(['broken', 'twice', 'early', 'missed']))
      .min(1)
      .max(10)
      .default(['broken', 'twice', 'early', 'missed'])
      .meta({
        description:
          'Whether a snippet breaks the page, something happens twice, something is stored before consent, or a snippet does not come as far as it should.',
      }),
  })
  .meta({ id: 'TroubleInput' });
export type TroubleInput = z.input<typeof troubleInput>;

export const trouble = z
  .object({
    kind: z.enum(['broken', 'twice', 'early', 'missed']),
    message: z.string(),
    advice: z.string(),
    who: cause.shape.who,
    culprits: z.array(z.string()).meta({ description: 'Keys of snippets; empty for the page’s own doing.' }),
    evidence: z.array(z.string()),
  })
  .meta({ id: 'Trouble' });

export const troubleAnswer = z
  .object({ isWell: z.boolean(), sentence: z.string(), troubles: z.array(trouble) })
  .meta({ id: 'TroubleAnswer' });
export type TroubleAnswerResource = z.infer<typeof troubleAnswer>;

/** One line of the stream: each visit once it is over, then the answer. */
export const troubleEvent = z
  .discriminatedUnion('type', [
    z.object({ type: z.literal('visiting'), round: z.int() }),
    z.object({ type: z.literal('visit'), visit: visitSummary }),
    z.object({ type: z.literal('answer'), answer: troubleAnswer, round: z.int() }),
  ])
  .meta({ id: 'TroubleEvent' });
export type TroubleEvent = z.infer<typeof troubleEvent>;
