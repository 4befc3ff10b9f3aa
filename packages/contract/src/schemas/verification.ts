import { DELIVERY_KEYS } from '@pragmatica/core';
import { z } from 'zod';
import { environment, path } from './common.js';

export const verificationInput = z
  .strictObject({
    environment: environment.default('live'),
    host: z
      .string()
      .max(253)
      .optional()
      .meta({ description: 'One of the site’s hosts; the environment’s first one when left out.' }),
    paths: z.array(path).max(10_000).optional(),
  })
  .meta({ id: 'VerificationInput' });
export type VerificationInput = z.input<typeof verificationInput>;

export const partDelivery = z.object({
  part: z.string(),
  snippet: z.string(),
  name: z.string(),
  state: z.enum(['delivered', 'missing', 'wrong-place', 'twice', 'left-out']),
  message: z.string(),
});

const counts = z.object({ pages: z.int(), unreachable: z.int(), parts: z.int(), delivered: z.int() });

/** One line of the stream (newline-delimited JSON) that a verification answers with. */
export const verificationEvent = z
  .discriminatedUnion('type', [
    z.object({
      type: z.literal('start'),
      total: z.int(),
      release: z.int(),
      address: z.string(),
      host: z.string(),
      delivery: z.enum(DELIVERY_KEYS),
    }),
    z.object({
      type: z.literal('page'),
      path: z.string(),
      status: z.int().nullable(),
      problem: z.string().nullable(),
      parts: z.array(partDelivery),
    }),
    z.object({ type: z.literal('done'), counts }),
  ])
  .meta({ id: 'VerificationEvent' });
export type VerificationEvent = z.infer<typeof verificationEvent>;
