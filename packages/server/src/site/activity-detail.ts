import type { ActivityDetail } from '@pragmatica/contract';
import {
  changeRows,
  changedCode,
  isDraftChange,
  mayAt,
  type Access,
  type TrailChange,
  type Values,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { snippetNames } from '../storage/draft.js';
import { snapshotSite } from '../storage/read-draft.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { findEntry } from '../storage/trail.js';
import { say } from '../texts/say.js';
import { TRAIL_TEXTS } from '../texts/trail.js';
import { activityResource } from './activity.js';
import { findSite } from './site-lock.js';

/** What one change did, before and after. @throws ServiceError 404 */
export async function describeActivity(
  store: Store,
  key: string,
  id: number,
  access: Access,
): Promise<ActivityDetail> {
  const site = await findSite(store, key);
  const { entry, changes } = await findActivity(store, site, id);
  const snippets = changes.filter(({ kind }) => kind === 'snippet').map(({ key: one }) => one);
  const names = await snippetNames(store, site, snippets);
  return {
    ...activityResource(entry, mayAt(access, key, 'own')),
    changes: changes.map((change) => toChange(change, site, names)),
  };
}

/** @throws ServiceError 404 */
export async function findActivity(store: Store, site: Site, id: number) {
  const found = await findEntry(store, site, id);
  if (!found) throw new ServiceError('no-such-activity', { site: site.key, entry: id });
  return found;
}

function toChange(
  change: TrailChange,
  site: Site,
  names: ReadonlyMap<string, string>,
): ActivityDetail['changes'][number] {
  const { kind, key, before, after } = change;
  const isDraft = isDraftChange(change);
  return {
    ...{ kind, key },
    name: nameOf(change, names),
    was: before === null ? 'added' : after === null ? 'removed' : 'changed',
    rows: isDraft ? changeRows(change, snapshotSite(site)) : plainRows(change),
    code: isDraft ? changedCode(change).map((code) => ({ ...code })) : [],
  };
}

/** @param names - of the draft’s snippets as they are now */
function nameOf({ kind, key, before, after }: TrailChange, names: ReadonlyMap<string, string>): string {
  if (kind !== 'snippet') return say(TRAIL_TEXTS.kinds[kind as keyof typeof TRAIL_TEXTS.kinds], { key });
  const named = (after ?? before) as { readonly name?: unknown };
  return typeof named.name === 'string' ? named.name : (names.get(key) ?? key);
}

/** Of what is no part of a draft: each value by its name. */
function plainRows({ before, after }: TrailChange): { what: string; before: string; after: string }[] {
  const [was, is] = [(before ?? {}) as Values, (after ?? {}) as Values];
  const text = (value: unknown): string =>
    value === undefined || value === null ? '' : typeof value === 'string' ? value : JSON.stringify(value);
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((name) => text(was[name]) !== text(is[name]))
    .map((name) => ({
      what: TRAIL_TEXTS.values[name as keyof typeof TRAIL_TEXTS.values],
      before: text(was[name]),
      after: text(is[name]),
    }));
}
