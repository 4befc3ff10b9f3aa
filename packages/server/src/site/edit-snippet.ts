import type { Store } from '../storage/store.js';
import { normalizeLimits, type RecipeLink, type SnippetState } from '@pragmatica/core';
import {
  removeSnippet as removeRow,
  saveSnippet,
  type DraftSnippet,
  type SnippetValues,
} from '../storage/draft.js';
import type { Site } from '../storage/rows.js';
import { toSnapshot } from '../storage/read-draft.js';
import { changeWords } from './change-words.js';
import { addSnippet, type NewSnippet } from './add-snippet.js';
import { setParts, type PartInput } from './edit-draft.js';
import { etag } from './entity-tag.js';
import { findSnippet } from './find-snippet.js';
import { assertIfMatch } from './if-match.js';
import { audit } from '../storage/trail.js';
import { withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

/** What may be said of a snippet; what is left out stays as it is. */
export interface SnippetEdit {
  readonly name?: string | undefined;
  readonly purpose?: string | undefined;
  readonly provider?: string | undefined;
  readonly note?: string | undefined;
  readonly state?: SnippetState | undefined;
  readonly pages?: { readonly include: readonly string[]; readonly exclude: readonly string[] } | undefined;
  readonly limits?: unknown;
  readonly needs?: readonly string[] | undefined;
  readonly recipe?: RecipeLink | null | undefined;
  readonly parts?: readonly PartInput[] | undefined;
}

/** The entity tag of a snippet: another one after every change of it. */
export function snippetTag({ snippet }: DraftSnippet): string {
  return etag(`${snippet.key}-${snippet.version}`);
}

/** Adds a snippet to a site's draft. @throws ServiceError 404, 409 */
export async function createSnippet(
  site: string,
  snippet: NewSnippet,
  { store, actor }: Acting,
): Promise<DraftSnippet> {
  return withSiteLock(store, site, async (transaction, found) => {
    await addSnippet(transaction, found, snippet, actor);
    audit(transaction, found, actor, 'snippet.add', () =>
      say(SITE_TEXTS.addedNameDraft, { name: snippet.name }),
    );
    await transaction.flush();
    return findSnippet(transaction, found, snippet.key);
  });
}

/** Changes a snippet of a draft. @param ifMatch - as whoever asks has seen it @throws ServiceError 404, 412 */
export async function editSnippet(
  site: string,
  key: string,
  edit: SnippetEdit,
  ifMatch: string,
  { store, actor }: Acting,
): Promise<DraftSnippet> {
  return withSiteLock(store, site, async (transaction, home) => {
    const found = await findSeen(transaction, home, key, ifMatch);
    const { snippet } = found;
    const before = toSnapshot(home, [found]);
    const { pages, parts, limits, ...rest } = edit;
    const values = { ...rest, ...pages, ...(limits ? { limits: normalizeLimits(limits) ?? {} } : {}) };
    saveSnippet(snippet, values as Partial<SnippetValues>, actor);
    if (parts) await setParts(transaction, home, snippet, found.parts, parts);
    await transaction.flush();
    const after = await findSnippet(transaction, home, key);
    audit(
      transaction,
      home,
      actor,
      'snippet.edit',
      () =>
        changeWords(before, toSnapshot(home, [after])) ||
        say(SITE_TEXTS.savedNameWithout, { name: snippet.name }),
    );
    await transaction.flush();
    return after;
  });
}

/** Removes a snippet from a draft; releases keep their copy. @throws ServiceError 404, 412 */
export async function removeSnippet(
  site: string,
  key: string,
  ifMatch: string,
  { store, actor }: Acting,
): Promise<void> {
  await withSiteLock(store, site, async (transaction, home) => {
    const { snippet } = await findSeen(transaction, home, key, ifMatch);
    removeRow(transaction, snippet);
    audit(transaction, home, actor, 'snippet.remove', () =>
      say(SITE_TEXTS.removedNameFrom, { name: snippet.name }),
    );
    await transaction.flush();
  });
}

/** A snippet that is as whoever asks has seen it. @throws ServiceError 404, 412 */
async function findSeen(store: Store, site: Site, key: string, ifMatch: string): Promise<DraftSnippet> {
  const found = await findSnippet(store, site, key);
  const { name, updatedBy, updatedAt } = found.snippet;
  assertIfMatch(ifMatch, snippetTag(found), say(SITE_TEXTS.quotedName, { name }), {
    by: updatedBy,
    at: updatedAt,
  });
  return found;
}
