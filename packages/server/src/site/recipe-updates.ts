import type { EntityManager } from '@mikro-orm/postgresql';
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
import { loadDraft, loadDrafts, toSnapshot, type DraftSnippet } from '../storage/draft.js';
import { SiteEntity, type Site } from '../storage/entities/index.js';
import { codeChanges } from './code-changes.js';
import { audit } from './site-lock.js';
import { setParts } from './edit-draft.js';

/** A snippet that is behind, and what it would be. */
interface Behind {
  readonly snippet: SnapshotSnippet;
  readonly from: Recipe;
  readonly to: Recipe;
  readonly brought: VersionMerge;
  /** What would change in the draft, in words. */
  readonly changes: readonly string[];
  readonly after: Snapshot;
}

/** What bringing a snippet up to the newest version of its recipe would do; undefined where it is not behind. */
function behindOf(snapshot: Snapshot, snippet: SnapshotSnippet, book: RecipeBook): Behind | undefined {
  const from = book.followed(snippet.recipe);
  const to = from && book.find(from.key);
  if (!from || !to || to.version <= from.version || snippet.state === 'archived') return undefined;
  const brought = mergeVersion(snippet, from, to, snapshot);
  const after = withSnippet(
    { ...snapshot, site: { ...snapshot.site, fields: brought.fields } },
    brought.snippet,
  );
  const changes = difference(snapshot, after).map(({ message }) => message);
  return { snippet, from, to, brought, changes, after };
}

/** Snippets of all drafts, or of one, that follow an older version of their recipe. Three queries. */
export async function recipeUpdates(
  em: EntityManager,
  book: RecipeBook,
  { site: only, recipe }: { readonly site?: string | undefined; readonly recipe?: string | undefined },
): Promise<RecipeUpdate[]> {
  const where = only === undefined ? {} : { key: only };
  const sites = await em.find(SiteEntity, where, { orderBy: { name: 'asc' } });
  const drafts = await loadDrafts(em, sites);
  return sites.flatMap((site) => {
    const snapshot = toSnapshot(site, drafts.get(site.id) ?? []);
    return snapshot.snippets.flatMap((snippet): RecipeUpdate[] => {
      if (recipe !== undefined && snippet.recipe?.key !== recipe) return [];
      const behind = behindOf(snapshot, snippet, book);
      return behind ? [toResource(site, snapshot, behind)] : [];
    });
  });
}

function toResource(
  site: Site,
  snapshot: Snapshot,
  { snippet, from, to, brought, changes, after }: Behind,
): RecipeUpdate {
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
    changes: [...changes],
    code: codeChanges(snapshot, after),
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
  em: EntityManager,
  site: Site,
  key: string,
  {
    book,
    replaceEdits,
    actor,
  }: { readonly book: RecipeBook; readonly replaceEdits: boolean; readonly actor: string },
): Promise<string> {
  const draft = await loadDraft(em, site);
  const found: DraftSnippet | undefined = draft.find(({ snippet }) => snippet.key === key);
  if (!found) throw new ServiceError('not-found', `The site "${site.key}" has no snippet "${key}".`);
  const snapshot = toSnapshot(site, draft);
  const before = snapshot.snippets.find((snippet) => snippet.key === key)!;
  const behind = behindOf(snapshot, before, book);
  if (!behind) {
    throw new ServiceError(
      'conflict',
      before.recipe
        ? `“${before.name}” follows the newest version of its recipe already.`
        : `“${before.name}” follows no recipe.`,
    );
  }
  const { brought, to, changes } = behind;
  if (brought.replaced.length > 0 && !replaceEdits)
    throw new ServiceError(
      'conflict',
      `Left as it is, because somebody changed it by hand: ${brought.replaced.join(' ')}`,
    );
  const { snippet, parts } = found;
  site.fields = brought.fields;
  Object.assign(snippet, { recipe: brought.snippet.recipe, updatedBy: actor, updatedAt: new Date() });
  await setParts(em, site, snippet, parts, brought.snippet.parts);
  const said = `Brought “${before.name}” up to version ${to.version} of “${to.name}”.`;
  audit(em, site, actor, 'recipe.update', [said, ...changes].join(' '));
  await em.flush();
  return [said, ...changes].join(' ');
}
