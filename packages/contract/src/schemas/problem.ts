import { z } from 'zod';
import { message } from './common.js';

/** Problem details (RFC 9457) with, for bad input, one entry per field. */
export const problem = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string().optional(),
    instance: z.string().optional(),
    errors: z
      .array(
        z.object({
          pointer: z.string().meta({ description: 'JSON Pointer (RFC 6901) into the body.' }),
          detail: z.string(),
          message: message.optional(),
        }),
      )
      .optional(),
    message: message.optional().meta({
      description: 'What `detail` says, with its parameters apart: for clients with words of their own.',
    }),
    changedBy: z.string().optional(),
    changedAt: z.string().optional(),
  })
  .meta({ id: 'Problem' });
export type Problem = z.infer<typeof problem>;
