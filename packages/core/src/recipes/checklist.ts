import type { EnvironmentName } from '../reach/index.js';
import type { SnapshotSnippet } from '../snapshot/index.js';
import type { Recipe, RecipeStep, StepTick } from './types.js';

export interface SiteHost {
  readonly host: string;
  readonly environment: EnvironmentName;
}

/** A step at the provider, for a site or for one of its hosts. */
export interface ChecklistItem {
  readonly recipe: Recipe;
  readonly step: RecipeStep;
  /** Empty where the step is for the whole site. */
  readonly host: string;
  /** What to do, with the host in it. */
  readonly title: string;
  /** What is wrong while it is not done. */
  readonly open: string;
  /** The site's snippets that it is for. */
  readonly snippets: readonly Pick<SnapshotSnippet, 'key' | 'name'>[];
  readonly tick: StepTick | undefined;
}

/** Snippets that are installs of a recipe. */
export interface RecipeUse {
  readonly recipe: Recipe;
  readonly snippets: readonly SnapshotSnippet[];
}

/** All that is to be done at the providers of a site's recipes, in the order of the recipes and their steps. */
export function checklist(
  uses: readonly RecipeUse[],
  hosts: readonly SiteHost[],
  ticks: readonly StepTick[],
): ChecklistItem[] {
  const ticked = new Map(ticks.map((tick) => [tickKey(tick.recipe, tick.step, tick.host), tick]));
  return uses.flatMap(({ recipe, snippets }) =>
    recipe.steps.flatMap((step) =>
      hostsOf(step, hosts).map((host) => ({
        ...{ recipe, step, host },
        title: withHost(step.title, host),
        open: withHost(step.open, host),
        snippets: snippets.map(({ key, name }) => ({ key, name })),
        tick: ticked.get(tickKey(recipe.key, step.key, host)),
      })),
    ),
  );
}

/** The hosts for which a step is to be done; one without a name where it is for the site. */
function hostsOf({ per, environment }: RecipeStep, hosts: readonly SiteHost[]): string[] {
  const meant = hosts.filter((host) => environment === undefined || host.environment === environment);
  if (per === 'host') return meant.map(({ host }) => host);
  // A step of staging alone has nothing to do with a site that has no staging.
  return environment === undefined || meant.length > 0 ? [''] : [];
}

function withHost(text: string, host: string): string {
  return text.replaceAll('{host}', host);
}

function tickKey(recipe: string, step: string, host: string): string {
  return JSON.stringify([recipe, step, host]);
}
