import type { EntityManager } from '@mikro-orm/postgresql';
import type { SiteResult } from '@pragmatica/contract';
import { baggageOf, listWords, type Snapshot, type SnapshotSnippet } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { snapshotSite, toSnapshot } from '../storage/read-draft.js';
import { SnippetEntity, type Site } from '../storage/entities/index.js';
import { addSnippet } from './add-snippet.js';
import { findSnippet } from './find-snippet.js';
import { audit, findSite } from './site-lock.js';
import { changeOneOf } from './each-site.js';
import type { Acting } from './use-case.js';

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
  { em, actor }: Acting,
): Promise<SiteResult[]> {
  const home = await findSite(em, from);
  const { site, snippets } = toSnapshot(home, [await findSnippet(em, home, key)]);
  const results: SiteResult[] = [];
  for (const to of new Set(sites))
    results.push(
      await changeOneOf(em, to, (transaction, found) =>
        copyInto(transaction, found, snippets[0]!, site, actor),
      ),
    );
  return results;
}

async function copyInto(
  em: EntityManager,
  site: Site,
  snippet: SnapshotSnippet,
  from: Snapshot['site'],
  actor: string,
): Promise<string> {
  const { key, name } = snippet;
  if (site.key === from.key) throw new ServiceError('same-site', {});
  if ((await em.count(SnippetEntity, { site, key })) > 0) throw new ServiceError('snippet-stays', { key });
  const { fields, pageGroups, missingConsent } = baggageOf(snippet, from, snapshotSite(site));
  site.fields = [...site.fields, ...fields];
  site.pageGroups = [...site.pageGroups, ...pageGroups];
  // What must come first is other snippets, which this site may not have.
  await addSnippet(em, site, { ...snippet, needs: [] }, actor);
  audit(em, site, actor, 'snippet.copy', `Copied “${name}” from ${from.name} into the draft.`);
  await em.flush();
  return [
    `“${name}” is in the draft.`,
    fields.length === 0
      ? ''
      : `Its fields came along without values: ${listWords(fields.map((field) => field.name))}.`,
    pageGroups.length === 0
      ? ''
      : `With it came the page groups ${listWords(pageGroups.map((group) => `“${group.name}”`))}.`,
    missingConsent.length === 0
      ? ''
      : `It waits for consent to ${listWords(missingConsent)}, about which this site asks nobody yet.`,
  ]
    .filter(Boolean)
    .join(' ');
}
