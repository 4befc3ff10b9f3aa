import type { Store } from '../storage/store.js';
import type { SiteResult } from '@pragmatica/contract';
import { baggageOf, listWords, type Snapshot, type SnapshotSnippet } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { snapshotSite, toSnapshot } from '../storage/read-draft.js';
import { hasSnippet } from '../storage/draft.js';
import type { Site } from '../storage/rows.js';
import { saveDefinitions } from '../storage/sites.js';
import { addSnippet } from './add-snippet.js';
import { findSnippet } from './find-snippet.js';
import { audit } from '../storage/trail.js';
import { findSite } from './site-lock.js';
import { changeOneOf } from './each-site.js';
import type { ActingWithin } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

/**
 * Copies a snippet of a draft, with the fields and page groups that it uses, into other sites' drafts: into each all of
 * it or nothing, whatever becomes of the others.
 *
 * @throws ServiceError 404 where there is no such snippet
 */
export async function copyToSites(
  from: string,
  key: string,
  sites: readonly string[],
  acting: ActingWithin,
): Promise<SiteResult[]> {
  const { store, actor } = acting;
  const home = await findSite(store, from);
  const { site, snippets } = toSnapshot(home, [await findSnippet(store, home, key)]);
  const results: SiteResult[] = [];
  for (const to of new Set(sites))
    results.push(
      await changeOneOf(acting, to, (transaction, found) =>
        copyInto(transaction, found, snippets[0]!, site, actor),
      ),
    );
  return results;
}

async function copyInto(
  store: Store,
  site: Site,
  snippet: SnapshotSnippet,
  from: Snapshot['site'],
  actor: string,
): Promise<string> {
  const { key, name } = snippet;
  if (site.key === from.key) throw new ServiceError('same-site', {});
  if (await hasSnippet(store, site, key)) throw new ServiceError('snippet-stays', { key });
  const { fields, pageGroups, missingConsent } = baggageOf(snippet, from, snapshotSite(site));
  saveDefinitions(site, {
    fields: [...site.fields, ...fields],
    pageGroups: [...site.pageGroups, ...pageGroups],
  });
  // What must come first is other snippets, which this site may not have.
  await addSnippet(store, site, { ...snippet, needs: [] }, actor);
  audit(store, site, actor, 'snippet.copy', () => say(SITE_TEXTS.copiedNameFrom, { name, site: from.name }));
  await store.flush();
  return [
    say(SITE_TEXTS.nameDraft, { name }),
    fields.length === 0
      ? ''
      : say(SITE_TEXTS.fieldsCameAlong, { list: listWords(fields.map((field) => field.name)) }),
    pageGroups.length === 0
      ? ''
      : say(SITE_TEXTS.camePageGroups, {
          list: listWords(pageGroups.map((group) => say(SITE_TEXTS.quotedName, { name: group.name }))),
        }),
    missingConsent.length === 0 ? '' : say(SITE_TEXTS.waitsConsentList, { list: listWords(missingConsent) }),
  ]
    .filter(Boolean)
    .join(' ');
}
