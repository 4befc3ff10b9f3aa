import type { RecipeSummary } from '@pragmatica/contract';
import { placementWords } from '@pragmatica/core';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { CircleArrowUp } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { recipeListQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { MoreButton } from '../../ui/more-button';
import { SearchField } from '../../ui/search-field';
import { useSettled } from '../../ui/use-settled';
import { ImportButton } from './import-button';
import { RecipeBadges } from './recipe-badges';
import { RECIPES } from '../../texts/recipes';
import { say } from '../../texts/say';

/** All recipes: what they install, how often, and which installs are behind. */
export function RecipesView() {
  const [searched, setSearched] = useState('');
  const asked = useSettled(searched.trim());
  const recipes = useInfiniteQuery({ ...recipeListQuery(asked), placeholderData: keepPreviousData });
  const [query] = useSearchParams();
  const site = query.get('site');
  const first = recipes.data?.pages[0];
  const behind = first?.behind ?? 0;
  const shown = recipes.data?.pages.flatMap(({ items }) => items) ?? [];
  const hasNone = first?.all === 0 && asked === '';
  return (
    <main className="mx-auto w-full max-w-5xl space-y-4 px-3 py-6 sm:px-5">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{RECIPES.heading}</h1>
          <p className="text-sm text-muted">{RECIPES.howInstallOne}</p>
        </div>
        <ImportButton />
      </div>
      {behind > 0 && (
        <div
          role="status"
          className="flex flex-wrap items-center gap-3 rounded-xl border border-line bg-signal-soft p-3 text-sm text-signal"
        >
          <CircleArrowUp className="size-5 shrink-0" aria-hidden />
          <p className="min-w-52 flex-1">{say(RECIPES.installsBehind, { count: behind })}</p>
          <Button asChild size="small">
            <Link to="/recipes/updates">{RECIPES.seeWhatWould}</Link>
          </Button>
        </div>
      )}
      {recipes.isPending && <Loading />}
      {recipes.isError && <Failure error={recipes.error} onRetry={() => void recipes.refetch()} />}
      {hasNone && (
        <Empty
          title={RECIPES.noRecipesYet}
          action={
            <Button asChild>
              <Link to="/">{RECIPES.toSites}</Link>
            </Button>
          }
        >
          {RECIPES.openSnippetWorks}
        </Empty>
      )}
      {first && !hasNone && (
        <SearchField
          label={RECIPES.findRecipe}
          placeholder={RECIPES.findNameProvider}
          value={searched}
          onChange={setSearched}
        />
      )}
      {first && !hasNone && shown.length === 0 && (
        <p className="text-sm text-muted">{say(RECIPES.noRecipeHas, { asked })}</p>
      )}
      <ul className="grid gap-3 sm:grid-cols-2">
        {shown.map((entry) => (
          <li key={entry.recipe.key}>
            <RecipeCard entry={entry} site={site} />
          </li>
        ))}
      </ul>
      <MoreButton list={recipes}>{RECIPES.moreRecipes}</MoreButton>
    </main>
  );
}

function RecipeCard({ entry, site }: { entry: RecipeSummary; site: string | null }) {
  const { recipe, installs, behind } = entry;
  const places = say(RECIPES.places, {
    places: recipe.parts.map(({ placement }) => placementWords(placement)),
  });
  return (
    <article className="relative h-full rounded-xl border border-line bg-surface p-4 shadow-card transition-colors hover:border-line-strong">
      <div className="flex flex-wrap items-baseline gap-x-2 gap-y-1">
        <h2 className="text-base">
          <Link
            to={`/recipes/${recipe.key}${site === null ? '' : `?site=${site}`}`}
            className="after:absolute after:inset-0 after:rounded-xl"
          >
            {recipe.name}
          </Link>
        </h2>
        <RecipeBadges recipe={recipe} behind={behind} />
        <span className="ml-auto text-[13px] text-muted">
          {say(RECIPES.versionVersion, { version: recipe.version })}
        </span>
      </div>
      <p className="mt-1 text-sm">{recipe.summary}</p>
      <p className="mt-2 text-[13px] text-muted">
        {places} · {say(RECIPES.howManyInstalls, { installs })}
      </p>
    </article>
  );
}
