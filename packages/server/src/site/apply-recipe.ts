import type { Store } from '../storage/store.js';
import type { SiteResult } from '@pragmatica/contract';
import {
  applyRecipe,
  givenValueProblems,
  isLeftAtExample,
  listWords,
  placementWords,
  type Access,
  type Applied,
  type GivenValue,
  type Recipe,
  type SnippetState,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { usedFields } from '../storage/field-names.js';
import type { Site } from '../storage/rows.js';
import { readDraft, snapshotSite } from '../storage/read-draft.js';
import { lastRanks } from '../storage/ranks.js';
import { installsAt } from '../storage/recipe-uses.js';
import { staleAmong } from '../storage/site-summaries.js';
import { sitesWithSnippet } from '../storage/snippet-keys.js';
import { createSnippet } from './add-snippet.js';
import { audit } from '../storage/trail.js';
import { lockSites, saveDefinitions } from '../storage/sites.js';
import { assertMay } from './assert-may.js';
import type { SiteChecks } from './site-checks.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface Application {
  readonly key: string;
  readonly name: string;
  /** Somebody chose the name: a second install is meant. */
  readonly isNamed: boolean;
  readonly state: SnippetState;
}

export interface Target {
  readonly site: string;
  readonly values: readonly GivenValue[];
}

interface Context {
  readonly checks: SiteChecks;
  readonly actor: string;
  readonly access: Access;
}

/**
 * Installs what a recipe describes in the drafts of sites, each by itself: one that cannot have it stops no other. One
 * statement a table, however many sites.
 */
export async function applyToSites(
  store: Store,
  recipe: Recipe,
  targets: readonly Target[],
  application: Application,
  context: Context,
): Promise<SiteResult[]> {
  return store.transactional(async (transaction) => {
    const found = await lockSites(
      transaction,
      targets.map(({ site }) => site),
    );
    const { sites, refused } = editable(
      targets.map(({ site }) => site),
      found,
      context.access,
    );
    const known = await whatIsThere(transaction, [...sites.values()], recipe, application, context);
    const results = targets.map(({ site: key, values }): SiteResult => {
      const site = sites.get(key);
      if (!site) return { site: key, isDone: false, message: refused.get(key)! };
      const refusal = refusalOf(recipe, values, application, known.installs.get(site.id));
      if (refusal !== undefined) return { site: key, isDone: false, message: refusal };
      if (known.taken.has(site.id)) {
        const { message } = new ServiceError('snippet-key-taken', { key: application.key });
        return { site: key, isDone: false, message };
      }
      known.taken.add(site.id);
      known.installs.set(site.id, application.name);
      const at = { site: snapshotSite(site), usedFields: known.used.get(site.id) ?? [] };
      const applied = applyRecipe(recipe, at, { ...application, values });
      saveDefinitions(site, { fields: applied.fields });
      const snippet = { ...applied.snippet, state: application.state };
      createSnippet(transaction, site, snippet, {
        last: known.last.get(site.id) ?? [],
        actor: context.actor,
      });
      const said = (): string =>
        say(SITE_TEXTS.installedNameFrom, { name: application.name, recipe: recipe.name });
      audit(transaction, site, context.actor, 'recipe.apply', said);
      return { site: key, isDone: true, message: doneWords(application.name, applied) };
    });
    await transaction.flush();
    return results;
  });
}

/** Of the sites that are meant those that may be edited, and why the others may not. */
function editable(
  keys: readonly string[],
  found: ReadonlyMap<string, Site>,
  access: Access,
): { readonly sites: ReadonlyMap<string, Site>; readonly refused: ReadonlyMap<string, string> } {
  const sites = new Map<string, Site>();
  const refused = new Map<string, string>();
  for (const key of keys)
    try {
      const site = found.get(key);
      if (!site) throw new ServiceError('no-such-site', { site: key });
      assertMay(access, site, 'edit');
      sites.set(key, site);
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      refused.set(key, error.message);
    }
  return { sites, refused };
}

interface WhatIsThere {
  /** Sites whose draft has a snippet of that key. */
  readonly taken: Set<number>;
  /** What an install of the recipe is called where there is one. */
  readonly installs: Map<number, string>;
  readonly used: Awaited<ReturnType<typeof usedFields>>;
  readonly last: Awaited<ReturnType<typeof lastRanks>>;
}

async function whatIsThere(
  store: Store,
  sites: readonly Site[],
  recipe: Recipe,
  { key }: Application,
  { checks }: Context,
): Promise<WhatIsThere> {
  const ids = sites.map(({ id }) => id);
  const installs = await installsAt(store, recipe, ids);
  // Code that was pasted a moment ago has not been read for recipes yet.
  const stale = await staleAmong(store, ids);
  for (const site of sites.filter(({ id }) => stale.has(id) && !installs.has(id))) {
    const uses = await checks.recipeUses(store, (await readDraft(store, site.id)).snapshot);
    const there = uses.find((use) => use.recipe.key === recipe.key)?.snippets[0];
    if (there) installs.set(site.id, there.name);
  }
  return {
    taken: await sitesWithSnippet(store, ids, key),
    installs,
    used: await usedFields(store, ids),
    last: await lastRanks(store, ids),
  };
}

/** Why a site cannot have it, in words. */
function refusalOf(
  recipe: Recipe,
  values: readonly GivenValue[],
  { isNamed }: Application,
  there: string | undefined,
): string | undefined {
  const problems = givenValueProblems(recipe, values);
  if (problems.length > 0) return problems.map(({ message }) => message).join(' ');
  if (there === undefined || recipe.repeatable || isNamed) return undefined;
  return new ServiceError('installed-already', { name: there }).message;
}

function doneWords(name: string, { snippet, fields }: Applied): string {
  const own = Object.values(snippet.recipe!.fields);
  const open = fields.filter((field) => own.includes(field.name) && isLeftAtExample(field, 'live'));
  const places = listWords(snippet.parts.map(({ placement }) => placementWords(placement)));
  if (open.length === 0) return say(SITE_TEXTS.inDraftAt, { name, places });
  const labels = open.map(({ label }) => label);
  return say(SITE_TEXTS.inDraftUnset, { name, places, labels });
}
