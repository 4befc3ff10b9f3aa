import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { WAYS_SITE } from './hosts.js';

/** What stands in a box of the site builder; of a box of one page, which. */
export interface PastedText {
  readonly kind: string;
  readonly page: string | null;
  readonly text: string;
}

/** What somebody has pasted into the boxes. It stays as it is, whatever is published, as in a real site builder. */
export async function pastedTexts(
  file: string,
  { server, token }: { readonly server: string; readonly token: string },
): Promise<readonly PastedText[]> {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as PastedText[];
  } catch {
    // Nobody has pasted anything yet: now somebody does, and ticks it off.
  }
  const client = createClient({ server, token, fetch: localhostFetch });
  const params = { site: WAYS_SITE };
  const { data } = await client.call('showBlocks', { params, query: {} });
  for (const { kind, page, digest } of data.blocks)
    await client.call('tickBlock', { params, body: { kind, page, digest } });
  const pasted = data.blocks.map(({ kind, page, text }) => ({ kind, page, text }));
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, JSON.stringify(pasted, null, 2));
  return pasted;
}

/** A page as a site builder makes it: what is in its boxes stands where the boxes are. */
export function withPasted(html: string, path: string, pasted: readonly PastedText[]): string {
  const textOf = (...kinds: string[]): string =>
    pasted
      .filter(({ kind, page }) => kinds.includes(kind) && (page === null || page === path))
      .map(({ text }) => text)
      .join('\n');
  const head = textOf('site-head', 'page-head');
  const foot = textOf('page-content', 'site-foot');
  const start = /<head>/i.test(html) ? /<head>/i : /<meta charset[^>]*>/i;
  // The page whose tags are left out ends without any.
  const end = /<\/html>/i.test(html) ? /<\/body>(?![^]*<\/body>)/i : /$/;
  return html.replace(start, (tag) => tag + head).replace(end, (tag) => foot + tag);
}
