import { readFileSync } from 'node:fs';
import { z } from 'zod';
import { CliError, EXIT } from './errors.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';
import { SURVEY } from './texts/survey.js';

/** The parts of the HTTP Archive format (HAR 1.2) that tell which pages somebody visited. */
const har = z.object({
  log: z.object({
    entries: z.array(
      z.object({
        request: z.object({ method: z.string(), url: z.string() }),
        response: z.object({
          content: z.object({ mimeType: z.string().default('') }).default({ mimeType: '' }),
        }),
      }),
    ),
  }),
});

/** Paths of the pages that a file lists: an address or a path a line, or a recording of a browser. @throws CliError */
export function readPathsFile(file: string): string[] {
  const text = readText(file);
  const listed = text.trimStart().startsWith('{') ? harAddresses(text, file) : text.split(/\r?\n/);
  const paths = listed.flatMap((line) => toPath(line.trim()) ?? []);
  return [...new Set(paths)];
}

function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    const code = String((error as NodeJS.ErrnoException).code);
    const line =
      code === 'ENOENT'
        ? say(COMMON.thereNoFile, { source: file })
        : say(COMMON.fileSourceCould, { source: file, code });
    throw new CliError(line, EXIT.usage);
  }
}

function harAddresses(text: string, file: string): string[] {
  try {
    const { log } = har.parse(JSON.parse(text));
    return log.entries.flatMap(({ request, response }) =>
      request.method === 'GET' && /html/i.test(response.content.mimeType) ? [request.url] : [],
    );
  } catch {
    throw new CliError(say(SURVEY.notHar, { file }), EXIT.usage);
  }
}

/** Which of them are the site's own is for the survey to say. */
function toPath(line: string): string | undefined {
  if (line === '' || line.startsWith('#')) return undefined;
  if (line.startsWith('/')) return line;
  if (!URL.canParse(line)) return undefined;
  const { pathname, search } = new URL(line);
  return pathname + search;
}
