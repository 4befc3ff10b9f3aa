import { z } from 'zod';
import { CliError, EXIT } from './errors.js';
import { readTextFile } from './text-file.js';
import { say } from './texts/say.js';
import { SURVEY } from './texts/survey.js';

/** The parts of the HTTP Archive format (HAR 1.2) that tell which pages somebody visited, and what came. */
const har = z.object({
  log: z.object({
    entries: z.array(
      z.object({
        request: z.object({ method: z.string(), url: z.string() }),
        response: z.object({
          status: z.number().default(200),
          headers: z.array(z.object({ name: z.string(), value: z.string() })).default([]),
          content: z
            .object({
              mimeType: z.string().default(''),
              text: z.string().optional(),
              encoding: z.string().optional(),
            })
            .default({ mimeType: '' }),
        }),
      }),
    ),
  }),
});
export type HarEntry = z.infer<typeof har>['log']['entries'][number];

/** @throws CliError where it is no such file */
export function readHar(file: string): readonly HarEntry[] {
  return parseHar(readTextFile(file), file);
}

/** @throws CliError where it is no such text */
export function parseHar(text: string, file: string): readonly HarEntry[] {
  try {
    return har.parse(JSON.parse(text)).log.entries;
  } catch {
    throw new CliError(say(SURVEY.notHar, { file }), EXIT.usage);
  }
}
