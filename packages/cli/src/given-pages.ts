import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { ApiClient, GivenPagesInput } from '@pragmatica/contract';
import { CliError } from './errors.js';
import { Progress, note } from './output.js';
import { isPageFile, pagePath } from './insert-folder/page-path.js';
import { readHar, type HarEntry } from './har.js';
import { SURVEY } from './texts/survey.js';
import { say } from './texts/say.js';

export type GivenPage = GivenPagesInput['pages'][number];

/** What goes over in one call, and the longest page: Base64 makes four bytes of three, and calls may be 4 MB long. */
const BATCH_BYTES = 1024 * 1024;
const MAX_PAGE_BYTES = 2.5 * 1024 * 1024;
const BATCH_PAGES = 500;

/** The HTML files of a folder as pages. Links are not followed. @throws CliError */
export function* folderPages(folder: string, hasCleanPaths: boolean): Generator<GivenPage> {
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
    throw new CliError(say(SURVEY.noFolder, { folder }));
  const root = resolve(folder);
  for (const entry of readdirSync(root, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !isPageFile(entry.name)) continue;
    const file = join(entry.parentPath, entry.name);
    yield {
      path: pagePath(relative(root, file), hasCleanPaths),
      body: readFileSync(file).toString('base64'),
    };
  }
}

/** The pages that a recording of a browser holds, as they were answered. @throws CliError */
export function* harPages(file: string): Generator<GivenPage> {
  for (const entry of readHar(file)) {
    const page = recorded(entry);
    if (page) yield page;
  }
}

function recorded({ request, response }: HarEntry): GivenPage | undefined {
  const { text, encoding, mimeType } = response.content;
  if (request.method !== 'GET' || !/html/i.test(mimeType) || text === undefined) return undefined;
  if (!URL.canParse(request.url) || response.status < 200) return undefined;
  const { pathname, search } = new URL(request.url);
  const headers = Object.fromEntries(response.headers.map(({ name, value }) => [name.toLowerCase(), value]));
  // Browsers write texts down in UTF-8, whatever they came in.
  const told: Record<string, string> =
    encoding === 'base64' ? {} : { 'content-type': 'text/html; charset=utf-8' };
  return {
    path: pathname + search,
    status: response.status,
    headers: { ...headers, ...told },
    body: encoding === 'base64' ? text : Buffer.from(text).toString('base64'),
  };
}

/** Hands pages over. @returns the set that they are in now. @throws CliError where there are none */
export async function handOver(
  client: ApiClient,
  site: string,
  pages: Iterable<GivenPage>,
  source: string,
): Promise<string> {
  const set = randomUUID();
  const progress = new Progress();
  let batch: GivenPage[] = [];
  let bytes = 0;
  let count = 0;
  const send = async (): Promise<void> => {
    await client.call('givePages', { params: { site, set }, body: { pages: batch } });
    count += batch.length;
    progress.update(say(SURVEY.handedOver, { count }));
    batch = [];
    bytes = 0;
  };
  for (const page of pages) {
    if (page.body.length > MAX_PAGE_BYTES) {
      note(say(SURVEY.tooLong, { path: page.path }));
      continue;
    }
    if (batch.length > 0 && (bytes + page.body.length > BATCH_BYTES || batch.length === BATCH_PAGES))
      await send();
    batch.push(page);
    bytes += page.body.length;
  }
  if (batch.length > 0) await send();
  progress.end();
  if (count === 0) throw new CliError(say(SURVEY.nothingToHandOver, { source }));
  return set;
}
