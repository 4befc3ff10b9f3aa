import {
  SITE_FORMAT,
  type Environment,
  type ImportedSiteResource,
  type SiteFile,
} from '@pragmatica/contract';
import {
  canonicalJson,
  snapshotDigest,
  wordFinding,
  type Recipe,
  type RecipeBook,
  type Snapshot,
} from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import { insertSnippetsOf } from '../storage/draft.js';
import { hostsOf, takenHosts } from '../storage/hosts.js';
import { boxesOf, saveBoxes } from '../storage/pasted-blocks.js';
import { pointTo, pointersOf } from '../storage/pointers.js';
import { insertRecipe } from '../storage/recipes.js';
import { addRelease, allReleases } from '../storage/releases.js';
import type { Release } from '../storage/rows.js';
import { siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { insertTicks, ticksOf } from '../storage/ticks.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { saveWaiver, waiversOf } from '../storage/waivers.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';
import { addSite, type EditContext } from './edit-site.js';
import { assertContained } from './publish.js';
import { findSite } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';

/** A whole site as one file. The same site is the same file, whenever it is asked for. @throws ServiceError 404 */
export async function exportSite({ checks, sets }: SiteTools, store: Store, key: string): Promise<SiteFile> {
  const site = await findSite(store, key);
  const { snapshot: draft } = await sets.draft(store, site);
  const { book } = await checks.recipeCache.read(store);
  const releases: SiteFile['releases'] = [];
  for (const release of await allReleases(store, site)) {
    const { number, message, author, createdAt, digest, forced } = release;
    const set = (await sets.release(store, release)) as SiteFile['draft'];
    releases.push({
      ...{ number, message, author, digest, set },
      createdAt: createdAt.toISOString(),
      forced: forced ?? null,
    });
  }
  const pointers = await pointersOf(store, site);
  const waivers = [...(await waiversOf(store, site))].sort((a, b) => (a.finding < b.finding ? -1 : 1));
  return {
    format: SITE_FORMAT,
    draft: draft as SiteFile['draft'],
    hosts: (await hostsOf(store, site)).map(({ host, environment, delivery, origin, address, transfer }) => ({
      ...{ host, environment, delivery, origin, transfer },
      address: address ?? null,
    })),
    boxes: [...(await boxesOf(store, site))] as SiteFile['boxes'],
    releases,
    serves: Object.fromEntries(pointers.map(({ environment, release }) => [environment, release.number])),
    recipes: recipesOf([draft, ...releases.map(({ set }) => set)], book) as SiteFile['recipes'],
    ticks: await ticksOf(store, site),
    waivers: waivers.map(({ finding, fingerprint, title, reason, author, until }) => ({
      ...{ finding, fingerprint, title, reason, author, until },
    })),
  };
}

/** The versions of recipes that sets follow, by key and version. */
function recipesOf(sets: readonly Snapshot[], book: RecipeBook): Recipe[] {
  const found = new Map<string, Recipe>();
  for (const { snippets } of sets)
    for (const { recipe } of snippets) {
      const version = recipe && book.version(recipe.key, recipe.version);
      if (version) found.set(`${version.key} ${String(version.version).padStart(9, '0')}`, version);
    }
  return [...found].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, version]) => version);
}

export interface SiteImport {
  readonly file: SiteFile;
  readonly key?: string | undefined;
  readonly withHosts: boolean;
  readonly preview: boolean;
  readonly locale: string;
}

/**
 * Adds a site from its file, or says what would come. Nothing of the file is believed: releases have to be what their digests say,
 * and none that is served may change the page around it.
 *
 * @throws ServiceError 409, 422
 */
export async function importSite(
  { checks }: SiteTools,
  { file, preview, withHosts, locale, key = file.draft.site.key }: SiteImport,
  { store, actor, access, gatewayPort }: Acting & EditContext,
): Promise<ImportedSiteResource> {
  const { book } = await checks.recipeCache.read(store);
  const recipes = newRecipes(file, book);
  file.releases.forEach(({ set, digest, number }, index) => {
    if (snapshotDigest(set) !== digest)
      throw errorAt(`/file/releases/${index}/digest`, 'release-damaged', { number });
  });
  const named = <T extends Snapshot>(set: T): T => ({ ...set, site: { ...set.site, key } });
  const draft = named(file.draft as Snapshot);
  for (const number of new Set(Object.values(file.serves))) {
    const snapshot = file.releases[number - 1]!.set as Snapshot;
    assertContained(snapshot, await checks.readers.run('uncontained', { snapshot }));
  }
  const nothing = await checks.nothingKnown(store);
  const coming = recipes.map((recipe) => ` ${recipe.key}@${recipe.version}`).join('');
  const found = await checks.find(draft, {
    ...nothing,
    ticks: file.ticks,
    recipes: [...nothing.recipes, ...recipes],
    edition: nothing.edition + coming,
  });
  const hosts = withHosts ? file.hosts : [];
  const taken = {
    key: (await siteByKey(store, key)) !== undefined,
    hosts: await takenHosts(
      store,
      hosts.map(({ host }) => host),
    ),
  };
  if (!preview)
    await store.transactional(async (transaction) => {
      for (const recipe of recipes) insertRecipe(transaction, recipe, actor);
      const site = await addSite(transaction, { ...draft.site, hosts }, { actor, access, gatewayPort });
      await insertSnippetsOf(transaction, site, draft, actor);
      if (file.boxes.length > 0) await saveBoxes(transaction, site, file.boxes);
      const releases: Release[] = [];
      for (const { set, createdAt, number: _, digest: __, ...head } of file.releases) {
        const snapshot = named(set as Snapshot);
        const snippetsOn = snapshot.snippets.filter(({ state }) => state === 'on').length;
        const digest = snapshotDigest(snapshot);
        const values = { ...head, digest, snippetsOn, createdAt: new Date(createdAt) };
        releases.push(await addRelease(transaction, site, values, snapshot));
        await transaction.flush();
      }
      for (const [environment, number] of Object.entries(file.serves))
        await pointTo(transaction, site, environment as Environment, releases[number - 1]!, actor);
      insertTicks(transaction, site, file.ticks);
      for (const { title, ...waiver } of file.waivers) await saveWaiver(transaction, site, waiver, title);
      const { name } = draft.site;
      const words = (): string => say(SITE_TEXTS.importedSite, { name, releases: releases.length });
      audit(transaction, site, actor, 'site.import', words);
      await transaction.flush();
      await notifyGateways(transaction, site);
    });
  return {
    isDone: !preview,
    key,
    name: draft.site.name,
    snippets: draft.snippets.length,
    releases: file.releases.length,
    hosts: hosts.map(({ host }) => host),
    taken,
    recipes: recipes.map((recipe) => ({ key: recipe.key, version: recipe.version, name: recipe.name })),
    waivers: file.waivers.length,
    found: found.map((finding) => wordFinding(finding, locale) as ImportedSiteResource['found'][number]),
  };
}

/** @throws ServiceError 409 where another one has the number of a version that is here */
function newRecipes({ recipes }: SiteFile, book: RecipeBook): Recipe[] {
  return (recipes as Recipe[]).filter((recipe) => {
    const known = book.find(recipe.key) && book.version(recipe.key, recipe.version);
    if (!known) return true;
    if (canonicalJson(known) !== canonicalJson(recipe))
      throw new ServiceError('recipe-differs', { recipe: recipe.key, version: recipe.version });
    return false;
  });
}
