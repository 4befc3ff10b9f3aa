import { z } from 'zod';
import * as schemas from '../schemas/index.js';

export const site = z.strictObject({ site: schemas.key });
export const hostOfSite = site.extend({ host: z.string().max(253) });
export const snippet = site.extend({ snippet: schemas.key });

/** A list that is short enough to be answered whole. */
export const items = <T extends z.ZodType>(item: T) => z.object({ items: z.array(item) });
