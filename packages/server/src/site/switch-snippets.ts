import { listWords, type SnippetState } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { loadSnippetsByKey, saveSnippet, type DraftSnippet } from '../storage/draft.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';
import { withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';

const SAID: Readonly<Record<SnippetState, 'switchedOn' | 'switchedOff' | 'putAway'>> = {
  on: 'switchedOn',
  off: 'switchedOff',
  archived: 'putAway',
};

/** Gives several snippets of a draft one state, all of them or none. @throws ServiceError 404 */
export async function switchSnippets(
  site: string,
  keys: readonly string[],
  state: SnippetState,
  { store, actor }: Acting,
): Promise<readonly DraftSnippet[]> {
  return withSiteLock(store, site, async (transaction, home) => {
    const found = await loadSnippetsByKey(transaction, home, keys);
    const known = new Set(found.map(({ snippet }) => snippet.key));
    const missing = keys.find((key) => !known.has(key));
    if (missing !== undefined) throw new ServiceError('no-such-snippet', { site, snippet: missing });
    const changed = found.filter(({ snippet }) => snippet.state !== state);
    for (const { snippet } of changed) saveSnippet(snippet, { state }, actor);
    if (changed.length > 0) {
      const names = (): string =>
        listWords(changed.map(({ snippet }) => say(SITE_TEXTS.quotedName, { name: snippet.name })));
      audit(transaction, home, actor, 'snippet.edit', () => say(SITE_TEXTS[SAID[state]], { names: names() }));
    }
    await transaction.flush();
    return found;
  });
}
