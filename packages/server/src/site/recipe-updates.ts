import type { Store } from '../storage/store.js';
import type { RecipeUpdate } from '@pragmatica/contract';
import {
  mergeVersion,
  difference,
  recipeDifference,
  withSnippet,
  type VersionMerge,
  type Recipe,
  type RecipeBook,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { loadSnippet, loadSnippets, saveSnippet, type DraftSnippet } from '../storage/draft.js';
import { saveDefinitions } from '../storage/sites.js';
import { toSnapshot } from '../storage/read-draft.js';
import type { Site } from '../storage/rows.js';
import { usedFields } from '../storage/field-names.js';
import type { SomeSites } from '../storage/search.js';
import { listBehind } from '../storage/recipe-uses.js';
import { codeChanges } from './code-changes.js';
import { audit } from '../storage/trail.js';
import { setParts } from './edit-draft.js';
import { SITE_TEXTS } from '../texts/site.js';
import { changeWords } from './change-words.js';
import { say } from '../texts/say.js';

/** A snippet that is behind, and what it would be. */
interface Behind {
  readonly snippet: SnapshotSnippet;
  readonly from: Recipe;
  readonly to: Recipe;
  readonly brought: VersionMerge;
  /** The snippet's part of the draft, before and after. */
  readonly before: Snapshot;
  readonly after: Snapshot;
}

/**
 * What bringing a snippet up to the newest version of its recipe would do; undefined where it is not behind.
 *
 * @param used - names of the fields that the site's code uses
 */
function behindOf(
  site: Site,
  found: DraftSnippet,
  book: RecipeBook,
  used: readonly string[],
): Behind | undefined {
  const before = toSnapshot(site, [found]);
  const snippet = before.snippets[0]!;
  const from = book.followed(snippet.recipe);
  const to = from && book.find(from.key);
  if (!from || !to || to.version <= from.version || snippet.state === 'archived') return undefined;
  const brought = mergeVersion(snippet, from, to, { site: before.site, usedFields: used });
  const after = withSnippet({ ...before, site: { ...before.site, fields: brought.fields } }, brought.snippet);
  return { snippet, from, to, brought, before, after };
}

/** Snippets of all drafts, or of one, that follow an older version of their recipe. Five queries, and only they are read. */
export async function recipeUpdates(
  store: Store,
  book: RecipeBook,
  {
    site: only,
    recipe,
    seen,
  }: {
    readonly site?: string | undefined;
    readonly recipe?: string | undefined;
    /** Sites that whoever asks may see. */
    readonly seen: SomeSites;
  },
): Promise<RecipeUpdate[]> {
  const newest = book.newest.filter(({ key }) => recipe === undefined || key === recipe);
  const listed = await listBehind(store, newest, { only, seen });
  const used = await usedFields(store, [...new Set(listed.map(({ site }) => site))]);
  const found = await loadSnippets(
    store,
    listed.map(({ snippet }) => snippet),
  );
  return found.flatMap((one): RecipeUpdate[] => {
    const site = one.snippet.site;
    const behind = behindOf(site, one, book, used.get(site.id) ?? []);
    return behind ? [toResource(site, behind)] : [];
  });
}

function toResource(site: Site, { snippet, from, to, brought, before, after }: Behind): RecipeUpdate {
  return {
    site: site.key,
    siteName: site.name,
    snippet: snippet.key,
    name: snippet.name,
    recipe: to.key,
    recipeName: to.name,
    from: from.version,
    to: to.version,
    news: recipeDifference(from, to),
    changes: difference(before, after).map(({ message }) => message),
    code: codeChanges(before, after),
    replaced: [...brought.replaced],
  };
}

/**
 * Brings a snippet of a draft up to the newest version of its recipe.
 *
 * @param replaceEdits - also where the recipe replaces what was changed by hand
 * @returns in words what it did
 * @throws ServiceError 404, 409
 */
export async function updateFromRecipe(
  store: Store,
  site: Site,
  key: string,
  {
    book,
    replaceEdits,
    actor,
  }: { readonly book: RecipeBook; readonly replaceEdits: boolean; readonly actor: string },
): Promise<string> {
  const found = await loadSnippet(store, site, key);
  if (!found) throw new ServiceError('no-such-snippet', { site: site.key, snippet: key });
  const { snippet, parts } = found;
  const used = await usedFields(store, [site.id]);
  const behind = behindOf(site, found, book, used.get(site.id) ?? []);
  if (!behind) {
    throw new ServiceError(snippet.recipe ? 'follows-newest' : 'follows-none', { name: snippet.name });
  }
  const { brought, to, before, after } = behind;
  if (brought.replaced.length > 0 && !replaceEdits)
    throw new ServiceError('edited-by-hand', { replaced: brought.replaced.join(' ') });
  saveDefinitions(site, { fields: brought.fields });
  saveSnippet(snippet, { recipe: brought.snippet.recipe ?? null }, actor);
  await setParts(store, site, snippet, parts, brought.snippet.parts);
  const said = (): string =>
    `${say(SITE_TEXTS.broughtNameUp, { name: snippet.name, version: to.version, recipe: to.name })} ${changeWords(before, after)}`.trim();
  audit(store, site, actor, 'recipe.update', said);
  await store.flush();
  return said();
}
