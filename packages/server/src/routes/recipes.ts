import { UniqueConstraintViolationException, type EntityManager } from '@mikro-orm/postgresql';
import { recipeJsonSchema, type RecipeResource, type SiteResult } from '@pragmatica/contract';
import {
  canonicalJson,
  recipeDifference,
  recipeProblems,
  type Recipe,
  type RecipeBook,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { ServiceError } from '../errors.js';
import { applyToSite } from '../site/apply-recipe.js';
import { audit, withSiteLock } from '../site/site-lock.js';
import { changeOneOf } from '../site/each-site.js';
import { setParts } from '../site/edit-draft.js';
import { recipeUpdates, updateFromRecipe } from '../site/recipe-updates.js';
import type { SiteChecks } from '../site/site-checks.js';
import { loadDraft, loadDrafts, loadSnippet, toSnapshot, type DraftSnippet } from '../storage/draft.js';
import { RecipeEntity, SiteEntity } from '../storage/entities/index.js';
import { keyOrFromName } from '../site/key-or-from-name.js';
import { snippetResource } from '../site/snippet-resource.js';

export function recipeHandlers(
  checks: SiteChecks,
): HandlersOf<
  | 'listRecipes'
  | 'importRecipe'
  | 'showRecipe'
  | 'exportRecipe'
  | 'applyRecipe'
  | 'makeRecipe'
  | 'followRecipe'
  | 'listRecipeUpdates'
  | 'updateFromRecipes'
  | 'showRecipeSchema'
> {
  const describe = async (em: EntityManager): Promise<RecipeResource[]> => {
    const { book } = await checks.recipeCache.read(em);
    return describeRecipes(em, book, checks);
  };
  return {
    async listRecipes(_input, { em }) {
      return { data: { items: await describe(em) } };
    },

    async importRecipe({ body }, { em, actor }) {
      const recipe = body as Recipe;
      const { book } = await checks.recipeCache.read(em);
      const there = book.version(recipe.key, recipe.version);
      if (there && canonicalJson(there) !== canonicalJson(recipe)) throw versionTaken(recipe, book);
      if (!there) await keep(em.fork(), recipe, actor);
      const resource = findResource(await describe(em), recipe.key);
      return {
        data: { ...resource, isNew: !there },
        location: `/api/v1/recipes/${recipe.key}`,
      };
    },

    async showRecipe({ params }, { em }) {
      return { data: findResource(await describe(em), params.recipe) };
    },

    async exportRecipe({ params }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      const recipe = book.version(params.recipe, params.version);
      if (recipe) return { data: recipe };
      const known = findRecipe(book, params.recipe);
      throw new ServiceError(
        'not-found',
        `“${known.name}” has no version ${params.version}; the newest is ${known.version}.`,
      );
    },

    async applyRecipe({ params, body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const recipe = findRecipe(book, params.recipe);
      const name = body.name ?? recipe.name;
      const key = keyOrFromName(body.key, name);
      const items: SiteResult[] = [];
      for (const { site, values } of body.targets)
        items.push(
          await changeOneOf(em, site, (transaction, found) =>
            applyToSite(
              transaction,
              found,
              recipe,
              {
                ...{ key, name, values, state: body.state },
                isNamed: body.name !== undefined || body.key !== undefined,
              },
              { checks, actor },
            ),
          ),
        );
      return { data: { items } };
    },

    async makeRecipe({ params, body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const recipe = await withSiteLock(em, params.site, async (transaction, site) => {
        const draft = await loadDraft(transaction, site);
        const snapshot = toSnapshot(site, draft);
        const { found, snippet } = findInDraft(site.key, draft, snapshot, params.snippet);
        const followed = followedBy(book, snippet, body.key);
        const name = body.name ?? followed?.name ?? snippet.name;
        const key = followed?.key ?? keyOrFromName(body.key, name);
        if (!followed && book.find(key))
          throw new ServiceError(
            'conflict',
            `There is a recipe "${key}" already. Give another name or key.`,
            {
              errors: [{ pointer: '/key', detail: 'This key is taken.' }],
            },
          );
        const made = await checks.readers.run('recipeFromSnippet', {
          snippet,
          snapshot,
          as: { key, name, followed },
        });
        const { changes: _, ...rest } = made.recipe;
        const next: Recipe = body.changes === undefined ? rest : { ...rest, changes: body.changes };
        assertSound(next);
        if (followed && canonicalJson({ ...next, version: followed.version }) === canonicalJson(followed))
          throw new ServiceError(
            'conflict',
            `“${snippet.name}” is as version ${followed.version} of its recipe describes it: there is nothing new.`,
          );
        if (body.preview) return next;
        site.fields = made.fields;
        found.snippet.recipe = { key, version: next.version, fields: made.names };
        found.snippet.updatedBy = actor;
        found.snippet.updatedAt = new Date();
        await setParts(transaction, site, found.snippet, found.parts, made.parts);
        await keep(transaction, next, actor);
        const said = `Made version ${next.version} of the recipe “${name}” from “${snippet.name}”.`;
        audit(transaction, site, actor, 'recipe.make', said);
        await transaction.flush();
        return next;
      });
      return { data: recipe };
    },

    async followRecipe({ params, body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const resource = await withSiteLock(em, params.site, async (transaction, site) => {
        const draft = await loadDraft(transaction, site);
        const snapshot = toSnapshot(site, draft);
        const { found, snippet } = findInDraft(site.key, draft, snapshot, params.snippet);
        if (snippet.recipe)
          throw new ServiceError(
            'conflict',
            `“${snippet.name}” follows the recipe “${snippet.recipe.key}” already.`,
          );
        const seen = (await checks.recipeUses(transaction, snapshot)).find(({ snippets }) =>
          snippets.some(({ key }) => key === snippet.key),
        );
        const recipe = body.recipe === undefined ? seen?.recipe : findRecipe(book, body.recipe);
        if (!recipe)
          throw new ServiceError(
            'conflict',
            `No recipe knows the code of “${snippet.name}”. Name one, or make one of it.`,
          );
        const followed = await checks.readers.run('followRecipe', { recipe, snippet, snapshot });
        if ('problem' in followed)
          throw new ServiceError('conflict', `“${snippet.name}” stays as it is. ${followed.problem}`);
        site.fields = followed.fields;
        Object.assign(found.snippet, {
          recipe: { key: recipe.key, version: recipe.version, fields: followed.names },
          updatedBy: actor,
          updatedAt: new Date(),
        });
        await setParts(transaction, site, found.snippet, found.parts, followed.parts);
        const said = `“${snippet.name}” follows the recipe “${recipe.name}” from now on, version ${recipe.version}.`;
        audit(transaction, site, actor, 'recipe.follow', said);
        await transaction.flush();
        return snippetResource((await loadSnippet(transaction, site, snippet.key))!);
      });
      return { data: resource };
    },

    async listRecipeUpdates({ query }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      return { data: { items: await recipeUpdates(em, book, query) } };
    },

    async updateFromRecipes({ body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const { replaceEdits } = body;
      const meant = body.snippets ?? (await recipeUpdates(em, book, {}));
      const items = [];
      for (const { site, snippet } of meant) {
        const result = await changeOneOf(em, site, (transaction, found) =>
          updateFromRecipe(transaction, found, snippet, { book, replaceEdits, actor }),
        );
        items.push({ ...result, snippet });
      }
      return { data: { items } };
    },

    showRecipeSchema() {
      return Promise.resolve({ data: recipeJsonSchema() });
    },
  };
}

/** All recipes by name, with their versions and installs: four queries, however many sites. */
async function describeRecipes(
  em: EntityManager,
  book: RecipeBook,
  checks: SiteChecks,
): Promise<RecipeResource[]> {
  const made = new Map(
    (await em.find(RecipeEntity, {}, { fields: ['key', 'version', 'createdBy', 'createdAt'] })).map((row) => [
      `${row.key} ${row.version}`,
      row,
    ]),
  );
  const sites = await em.find(SiteEntity, {}, { orderBy: { name: 'asc' } });
  const drafts = await loadDrafts(em, sites);
  const ofSites = await Promise.all(
    sites.map(async (site) => {
      const found = await checks.recipeUses(em, toSnapshot(site, drafts.get(site.id) ?? []));
      return found.flatMap(({ recipe, snippets }) =>
        snippets.map((snippet) => ({
          recipe: recipe.key,
          use: {
            site: site.key,
            siteName: site.name,
            snippet: snippet.key,
            name: snippet.name,
            state: snippet.state,
            version: snippet.recipe?.version ?? null,
            isBehind: snippet.recipe !== undefined && snippet.recipe.version < recipe.version,
          },
        })),
      );
    }),
  );
  const uses = ofSites.flat();
  return book.newest.map((recipe) => ({
    recipe: recipe as RecipeResource['recipe'],
    versions: book.versions(recipe.key).map((version, index, all) => {
      const row = made.get(`${version.key} ${version.version}`)!;
      const before = all[index + 1];
      return {
        version: version.version,
        by: row.createdBy,
        at: row.createdAt.toISOString(),
        changes: before ? recipeDifference(before, version) : [],
      };
    }),
    uses: uses.filter((entry) => entry.recipe === recipe.key).map(({ use }) => use),
  }));
}

/** A snippet as it is stored and as data. @throws ServiceError 404 */
function findInDraft(
  site: string,
  draft: readonly DraftSnippet[],
  snapshot: Snapshot,
  key: string,
): { found: DraftSnippet; snippet: SnapshotSnippet } {
  const found = draft.find(({ snippet }) => snippet.key === key);
  const snippet = snapshot.snippets.find((one) => one.key === key);
  if (!found || !snippet) throw new ServiceError('not-found', `The site "${site}" has no snippet "${key}".`);
  return { found, snippet };
}

/** @throws ServiceError 404 */
function findResource(resources: readonly RecipeResource[], key: string): RecipeResource {
  const found = resources.find(({ recipe }) => recipe.key === key);
  if (!found) throw unknown(key);
  return found;
}

/** @throws ServiceError 404 */
function findRecipe(book: RecipeBook, key: string): Recipe {
  const recipe = book.find(key);
  if (!recipe) throw unknown(key);
  return recipe;
}

function unknown(key: string): ServiceError {
  return new ServiceError('not-found', `There is no recipe "${key}".`);
}

/** The recipe of which a snippet makes the next version; undefined where it makes one of its own. @throws ServiceError 409 */
function followedBy(
  book: RecipeBook,
  {
    name,
    recipe: link,
  }: { readonly name: string; readonly recipe?: { readonly key: string; readonly version: number } },
  key: string | undefined,
): Recipe | undefined {
  const newest = link && (key === undefined || key === link.key) ? book.find(link.key) : undefined;
  if (newest && newest.version > link!.version)
    throw new ServiceError(
      'conflict',
      `“${name}” follows version ${link!.version} of “${newest.name}”, and there is version ${newest.version}. Bring it up first.`,
    );
  return newest;
}

/** @throws ServiceError 422 where what a snippet holds cannot be a recipe */
function assertSound(recipe: Recipe): void {
  const problems = recipeProblems(recipe);
  if (problems.length === 0) return;
  throw new ServiceError('invalid-input', `No recipe can be made of it yet. ${problems[0]!.message}`, {
    errors: problems.map(({ path, message }) => ({ pointer: `/${path.join('/')}`, detail: message })),
  });
}

/** Keeps a version. @throws ServiceError 409 where somebody else was faster */
async function keep(em: EntityManager, recipe: Recipe, actor: string): Promise<void> {
  try {
    em.create(
      RecipeEntity,
      {
        ...{ key: recipe.key, version: recipe.version, body: recipe },
        createdBy: actor,
        createdAt: new Date(),
      },
      { persist: true },
    );
    audit(em, null, actor, 'recipe.add', `Added version ${recipe.version} of the recipe “${recipe.name}”.`);
    await em.flush();
  } catch (error) {
    if (!(error instanceof UniqueConstraintViolationException)) throw error;
    throw versionTaken(recipe);
  }
}

function versionTaken({ name, version, key }: Recipe, book?: RecipeBook): ServiceError {
  const next = (book?.find(key)?.version ?? version) + 1;
  const detail = `“${name}” has a version ${version} already, which says something else. Versions never change: call this one ${next}.`;
  return new ServiceError('conflict', detail, { errors: [{ pointer: '/version', detail }] });
}
