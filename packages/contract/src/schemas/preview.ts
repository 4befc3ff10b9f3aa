import { z } from 'zod';
import { environment, timestamp } from './common.js';
import { says } from './says.js';

export const previewInput = z
  .strictObject({
    environment: environment.default('live').meta({ description: 'Where the pages come from.' }),
    host: z.string().max(253).optional().meta({ description: 'The environment’s first when left out.' }),
    path: z
      .string()
      .max(2_000)
      .regex(/^\/(?![/\\])/, says('pathForm'))
      .default('/')
      .meta({ description: 'The page that it begins with.' }),
    hours: z
      .int()
      .min(1)
      .max(336)
      .default(24)
      .meta({ description: 'For so long the address works: two weeks at most.' }),
    release: z.int().min(1).optional().meta({ description: 'A release instead of the draft.' }),
  })
  .meta({ id: 'PreviewInput' });

export const preview = z
  .object({
    address: z
      .url()
      .meta({ description: 'For people: whoever has it sees the draft until it ends. Told once.' }),
    host: z.string(),
    until: timestamp,
    isOnlyHere: z
      .boolean()
      .meta({ description: 'Only browsers on the service’s own machine find the address.' }),
  })
  .meta({ id: 'Preview' });
export type PreviewResource = z.infer<typeof preview>;
