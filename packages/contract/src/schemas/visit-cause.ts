import { z } from 'zod';

/** Why a snippet did not come further, wherever that is told. */
export const cause = z
  .object({
    id: z.string(),
    message: z.string(),
    advice: z.string(),
    who: z.enum(['you', 'site', 'provider', 'visitor', 'unknown']),
    evidence: z.array(z.string()),
  })
  .meta({ id: 'VisitCause', description: 'Why something did not come further, and who can change that.' });
