import type { EntityManager } from '@mikro-orm/postgresql';
import {
  applyRecipe,
  givenValueProblems,
  isLeftAtExample,
  listWords,
  placementWords,
  type GivenValue,
  type Recipe,
  type SnippetState,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { loadDraft, toSnapshot } from '../storage/draft.js';
import type { Site } from '../storage/entities/index.js';
import { addSnippet } from './add-snippet.js';
import { audit } from './site-lock.js';
import type { SiteChecks } from './site-checks.js';

export interface Application {
  readonly key: string;
  readonly name: string;
  /** Somebody chose the name: a second install is meant. */
  readonly isNamed: boolean;
  readonly state: SnippetState;
  readonly values: readonly GivenValue[];
}

/** Installs what a recipe describes in a site's draft. @returns in words what it did @throws ServiceError 409, 422 */
export async function applyToSite(
  em: EntityManager,
  site: Site,
  recipe: Recipe,
  { key, name, isNamed, state, values }: Application,
  { checks, actor }: { readonly checks: SiteChecks; readonly actor: string },
): Promise<string> {
  const problems = givenValueProblems(recipe, values);
  if (problems.length > 0)
    throw new ServiceError('invalid-input', problems.map(({ message }) => message).join(' '));
  const before = toSnapshot(site, await loadDraft(em, site));
  const uses = await checks.recipeUses(em, before);
  const there = uses.find((use) => use.recipe.key === recipe.key)?.snippets[0];
  if (there && !recipe.repeatable && !isNamed)
    throw new ServiceError(
      'conflict',
      `It has this already, as “${there.name}”, which stays as it is. For a second one give it a name of its own.`,
    );
  const { snippet, fields } = applyRecipe(recipe, before, { key, name, values });
  site.fields = fields;
  await addSnippet(em, site, { ...snippet, state }, actor);
  const open = fields.filter(
    (field) => Object.values(snippet.recipe!.fields).includes(field.name) && isLeftAtExample(field, 'live'),
  );
  const places = listWords(snippet.parts.map(({ placement }) => placementWords(placement)));
  const unset =
    open.length === 0
      ? ''
      : ` Still to be given: ${listWords(open.map(({ label }) => label))}, before it can be published.`;
  audit(em, site, actor, 'recipe.apply', `Installed “${name}” from the recipe “${recipe.name}”.`);
  await em.flush();
  return `“${name}” is in the draft: ${places}.${unset}`;
}
