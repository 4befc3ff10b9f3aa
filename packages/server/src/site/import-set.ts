import type { ImportedResource } from '@pragmatica/contract';
import {
  difference,
  importedSet,
  wordFinding,
  type Finding,
  type UnwordedFinding,
  type Snapshot,
} from '@pragmatica/core';
import { saveDraft } from '../storage/draft.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';
import { changeWords } from './change-words.js';
import { codeChanges } from './code-changes.js';
import { draftTag, lastChange } from './draft-tag.js';
import { assertIfMatch } from './if-match.js';
import { withSiteLock } from './site-lock.js';
import type { Acting, SiteTools, Tagged } from './use-case.js';

export interface ImportRequest {
  readonly set: Snapshot;
  readonly removes: boolean;
  readonly preview: boolean;
  /** The draft that whoever imports has seen. */
  readonly ifMatch: string;
  readonly locale: string;
}

/** Brings a set into a draft, or says what would change. @throws ServiceError 404, 412 */
export async function importSet(
  { checks, sets }: SiteTools,
  key: string,
  { set, removes, preview, ifMatch, locale }: ImportRequest,
  { store, actor }: Acting,
): Promise<Tagged<ImportedResource>> {
  await checks.prepare(store, key);
  const { book } = await checks.recipeCache.read(store);
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    assertIfMatch(ifMatch, draftTag(before), SITE_TEXTS.draft, await lastChange(transaction, site));
    const known = {
      ...set,
      // A recipe that is not here cannot be followed; the snippet is what it is without it.
      snippets: set.snippets.map(({ recipe, ...snippet }) =>
        recipe && book.version(recipe.key, recipe.version) ? { ...snippet, recipe } : snippet,
      ),
    };
    const target = importedSet(before, known, { removes });
    const changes = difference(before, target);
    const was = await checks.applyWaivers(transaction, site, before);
    const is = await checks.applyWaivers(transaction, site, target);
    const isDone = !preview && draftTag(before) !== draftTag(target);
    if (isDone) {
      await saveDraft(transaction, site, before, target, actor);
      audit(transaction, site, actor, 'import', () =>
        say(SITE_TEXTS.importedSet, { changes: changeWords(before, target) }),
      );
      await transaction.flush();
      await notifyGateways(transaction, site);
    }
    const count = (severity: Finding['severity']): number =>
      is.open.filter((one) => one.severity === severity).length;
    const coming = new Set(set.snippets.map((snippet) => snippet.key));
    const data: ImportedResource = {
      isDone,
      changes: changes.map((change) => ({ ...change })),
      code: codeChanges(before, target),
      found: newIn(was.open, is.open, locale),
      gone: newIn(is.open, was.open, locale),
      counts: {
        error: count('error'),
        warning: count('warning'),
        advice: count('advice'),
        waived: is.waived.length,
      },
      kept: removes
        ? []
        : before.snippets
            .filter((snippet) => !coming.has(snippet.key))
            .map((snippet) => ({ key: snippet.key, name: snippet.name })),
    };
    const saved = isDone ? (await sets.draft(transaction, site)).snapshot : before;
    return { data, etag: draftTag(saved) };
  });
}

function newIn(
  before: readonly UnwordedFinding[],
  after: readonly UnwordedFinding[],
  locale: string,
): ImportedResource['found'] {
  const known = new Set(before.map(({ id }) => id));
  return after
    .filter(({ id }) => !known.has(id))
    .map((finding) => wordFinding(finding, locale) as ImportedResource['found'][number]);
}
