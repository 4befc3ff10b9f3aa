import { z } from 'zod';
import { environment, timestamp } from './common.js';
import { blocks, blockTick } from './paste.js';

const secret = z.string().min(20).max(200).meta({
  description: 'What stands behind the # of the link. It is in no address that is sent, nor in any log.',
});

export const handoverInput = z
  .strictObject({
    environment: environment.default('live'),
    days: z.int().min(1).max(90).default(14).meta({ description: 'For so long the link works.' }),
  })
  .meta({ id: 'HandoverInput' });

export const handover = z
  .object({
    id: z.int(),
    environment,
    by: z.string(),
    madeAt: timestamp,
    until: timestamp,
    usedAt: timestamp.nullable().meta({ description: 'When somebody last ticked something off with it.' }),
  })
  .meta({ id: 'Handover', description: 'A link to the blocks to paste, for somebody without an account.' });
export type HandoverResource = z.infer<typeof handover>;

export const newHandover = handover
  .extend({ path: z.string().meta({ description: 'Of the link, below the service’s address. Shown once.' }) })
  .meta({ id: 'NewHandover' });

export const handoverSecret = z.strictObject({ secret }).meta({ id: 'HandoverSecret' });
export const handoverTick = blockTick
  .omit({ environment: true })
  .extend({ secret })
  .meta({ id: 'HandoverTick' });

/** What somebody sees who has the link. */
export const handoverSheet = z
  .object({ site: z.string(), environment, until: timestamp, blocks })
  .meta({ id: 'HandoverSheet' });
export type HandoverSheetResource = z.infer<typeof handoverSheet>;
