import type { EntityManager } from '@mikro-orm/postgresql';
import type { SiteResult } from '@pragmatica/contract';
import { baggageOf, listWords, type Snapshot, type SnapshotSnippet } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { snapshotSite } from '../storage/read-draft.js';
import { SnippetEntity, type Site } from '../storage/entities/index.js';
import { addSnippet } from './add-snippet.js';
import { audit } from './site-lock.js';
import { changeOneOf } from './each-site.js';

/** Copies a snippet into another site's draft, all of it or nothing. */
export async function copySnippet(
  em: EntityManager,
  snippet: SnapshotSnippet,
  from: Snapshot['site'],
  to: string,
  actor: string,
): Promise<SiteResult> {
  return changeOneOf(em, to, (transaction, site) => copyInto(transaction, site, snippet, from, actor));
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
