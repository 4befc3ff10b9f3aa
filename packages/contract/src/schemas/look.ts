import { z } from 'zod';
import { environment } from './common.js';
import { says } from './says.js';

export const lookInput = z
  .strictObject({
    address: z
      .string()
      .min(1, says('addressMissing'))
      .max(2_000)
      .meta({ description: 'As somebody types it into a browser: `www.example.com`.' }),
  })
  .meta({ id: 'LookInput' });

export const look = z
  .object({
    address: z.string().meta({ description: 'Where its pages are, after redirects: scheme, host and port.' }),
    host: z.string(),
    name: z.string().meta({ description: 'What it calls itself.' }),
    title: z.string(),
    isRedirected: z.boolean().meta({ description: 'It is somewhere else than was typed.' }),
  })
  .meta({ id: 'Look', description: 'A site as it answers at an address.' });
export type LookResource = z.infer<typeof look>;

export const firstLook = z
  .object({
    survey: z.int(),
    host: z.string(),
    environment,
    lines: z.array(z.string()).meta({ description: 'What was seen, a sentence each.' }),
  })
  .meta({ id: 'FirstLook', description: 'What a survey saw of a site, for its owner.' });
export type FirstLookResource = z.infer<typeof firstLook>;
