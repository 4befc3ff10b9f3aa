import type { BlockCheckResource, Environment } from '@pragmatica/contract';
import { judgeBlocks } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { readBounded } from '../../outgoing/read-bounded.js';
import type { SiteClient } from '../../outgoing/site-client.js';
import type { Readers } from '../../reading/readers.js';
import { surveyBase } from '../../survey/survey-base.js';
import type { Host } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { VERIFY_TEXTS } from '../../texts/verify.js';
import { say } from '../../texts/say.js';
import { findSite } from '../site-lock.js';
import { blocksOf, type PasteTools } from './blocks.js';

/** Of boxes for all pages so many pages are looked at: one has what all have. */
const SAMPLE = 12;
const AT_ONCE = 4;
const TIMEOUT_MS = 15_000;
const MAX_BYTES = 8 * 1024 * 1024;
const MAX_REDIRECTS = 3;

/**
 * Looks at live pages for what the boxes really hold: those that need blocks of their own, and some of the others.
 *
 * @throws ServiceError 404, 409 where nothing is published or there is no host
 */
export async function checkBlocks(
  tools: PasteTools & { readonly readers: Readers },
  store: Store,
  key: string,
  environment: Environment,
): Promise<BlockCheckResource> {
  const site = await findSite(store, key);
  const { blocks, boxes, release, host, pages } = await blocksOf(tools, store, site, environment, 'served');
  if (!host) throw new ServiceError('no-host-to-visit', { environment });
  if (release === null) throw new ServiceError('nothing-published', { environment });
  const access = await tools.client.accessIfLetIn(store, site, host);
  const own = blocks.flatMap(({ page }) => page ?? []);
  const waiting = [...new Set([...own, ...sampleOf(pages.length > 0 ? pages : ['/'])])];
  const paths = [...waiting];
  const seen = new Map<string, BlockCheckResource['pages'][number]>();
  const hand = async (): Promise<void> => {
    for (let path = waiting.shift(); path !== undefined; path = waiting.shift()) {
      const html = await pageText(tools.client, host, path, access);
      const found = 'text' in html ? await tools.readers.run('pastedBlocks', html) : [];
      seen.set(path, {
        page: path,
        problem: 'text' in html ? null : html.problem,
        findings: 'text' in html ? judgeBlocks(site.key, path, blocks, boxes, release, found) : [],
      });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, hand));
  const sights = paths.map((path) => seen.get(path)!);
  const states = sights.flatMap(({ findings }) => findings.map(({ state }) => state));
  const right = states.filter((state) => state === 'right').length;
  return { release, pages: sights, counts: { right, wrong: states.length - right } };
}

/** Pages spread over the list, the first among them. */
function sampleOf(pages: readonly string[]): string[] {
  const step = Math.max(1, pages.length / SAMPLE);
  return Array.from({ length: Math.min(SAMPLE, pages.length) }, (_, i) => pages[Math.floor(i * step)]!);
}

async function pageText(
  client: SiteClient,
  host: Host,
  path: string,
  access: Readonly<Record<string, string>>,
): Promise<{ readonly text: string } | { readonly problem: string }> {
  const { address, headers } = surveyBase(host, 'public', access);
  try {
    const response = await client.get(address, path, {
      headers: { ...headers, accept: 'text/html', 'cache-control': 'no-cache' },
      redirects: MAX_REDIRECTS,
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    if (response.status !== 200) {
      await response.body?.cancel();
      return { problem: say(VERIFY_TEXTS.siteAnsweredStatus, { status: response.status }) };
    }
    const bytes = await readBounded(response, MAX_BYTES);
    // Marks are ASCII: whatever the page's encoding is, they can be read.
    return bytes ? { text: Buffer.from(bytes).toString('latin1') } : { problem: VERIFY_TEXTS.pageLargerThan };
  } catch (error) {
    const cause =
      error instanceof Error && error.cause instanceof Error ? error.cause.message : String(error);
    return { problem: say(VERIFY_TEXTS.pageCouldNot, { cause }) };
  }
}
