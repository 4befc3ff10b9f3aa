import type { RecipeResource, SiteSummaryResource, SiteResult } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useApplyRecipe } from '../../api/mutations';
import { isNotFound } from '../../api/client';
import { recipeQuery } from '../../api/recipe-lists';
import { allSitesQuery } from '../../api/site-lists';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ResultList } from '../../ui/result-list';
import { Failure, Loading, NotFound } from '../../ui/states';
import { WayBack } from '../../ui/way-back';
import { targetOf, typedProblem, type Typed } from './given-values';
import { ValuesForm } from './values-form';
import { RECIPES } from '../../texts/recipes';
import { listed, rich } from '../../texts/rich';
import { say } from '../../texts/say';

/** Installs a recipe: on which sites, and what differs from site to site. Nothing else is asked. */
export function ApplyRecipeView() {
  const key = useParams()['recipe']!;
  const recipe = useQuery(recipeQuery(key));
  const sites = useQuery(allSitesQuery);
  const failed = recipe.error ?? sites.error;
  if (isNotFound(recipe.error)) return <NotFound />;
  if (failed)
    return (
      <main className="mx-auto w-full max-w-3xl px-3 py-6 sm:px-5">
        <Failure error={failed} onRetry={() => void Promise.all([recipe.refetch(), sites.refetch()])} />
      </main>
    );
  if (!recipe.data || !sites.data)
    return (
      <main className="mx-auto w-full max-w-3xl px-3 py-6 sm:px-5">
        <Loading lines={5} label={RECIPES.loadingRecipe} />
      </main>
    );
  return <ApplyRecipe found={recipe.data} sites={sites.data} />;
}

function ApplyRecipe({ found, sites }: { found: RecipeResource; sites: readonly SiteSummaryResource[] }) {
  const { recipe, uses } = found;
  const [query] = useSearchParams();
  const [chosen, setChosen] = useState<readonly string[]>(() => {
    const asked = query.get('site') ?? (sites.length === 1 ? sites[0]!.key : null);
    return asked !== null && sites.some(({ key }) => key === asked) ? [asked] : [];
  });
  const [typed, setTyped] = useState<Typed>(new Map());
  const [name, setName] = useState('');
  const [results, setResults] = useState<readonly SiteResult[]>();
  const apply = useApplyRecipe(recipe.key);
  const meant = sites.filter(({ key }) => chosen.includes(key));
  const isWrong = meant.some(({ key }) =>
    recipe.fields.some((field) =>
      (['value', 'staging'] as const).some((place) => typedProblem(typed, key, field, place) !== undefined),
    ),
  );
  const nameOf = (key: string): string => sites.find((site) => site.key === key)?.name ?? key;
  const start = (): void =>
    apply.run(
      {
        ...(name.trim() === '' ? {} : { name }),
        targets: meant.map(({ key }) => targetOf(typed, key, recipe.fields)),
      },
      setResults,
    );
  return (
    <main className="mx-auto w-full max-w-3xl space-y-5 px-3 py-6 sm:px-5">
      <div>
        <WayBack to={`/recipes/${recipe.key}`}>{recipe.name}</WayBack>
        <h1>
          {results
            ? say(RECIPES.nameYourSites, { name: recipe.name })
            : say(RECIPES.installName, { name: recipe.name })}
        </h1>
        <p className="text-sm text-muted">{say(RECIPES.summaryGoesInto, { summary: recipe.summary })}</p>
      </div>
      {results ? (
        <>
          <section
            aria-label={RECIPES.results}
            className="rounded-xl border border-line bg-surface p-4 sm:p-5"
          >
            <ResultList
              results={results.map(({ site, isDone, message }) => ({
                key: site,
                isDone,
                message,
                title: (
                  <Link to={`/sites/${site}/strip?of=draft`} className="font-medium hover:underline">
                    {nameOf(site)}
                  </Link>
                ),
              }))}
            />
            {recipe.steps.length > 0 && results.some(({ isDone }) => isDone) && (
              <p className="mt-4 border-t border-line pt-3 text-sm">
                {rich(RECIPES.somethingDoneProvider, {
                  provider: recipe.provider,
                  checklists: listed(
                    results
                      .filter(({ isDone }) => isDone)
                      .map(({ site }) => ({
                        key: site,
                        element: (
                          <Link to={`/sites/${site}/checklist`} className="font-medium underline">
                            {say(RECIPES.checklistName, { name: nameOf(site) })}
                          </Link>
                        ),
                      })),
                  ),
                })}
              </p>
            )}
          </section>
          <Button
            onClick={() => {
              setChosen(results.filter(({ isDone }) => !isDone).map(({ site }) => site));
              setResults(undefined);
            }}
          >
            {RECIPES.backForm}
          </Button>
        </>
      ) : (
        <form
          className="space-y-5"
          onSubmit={(event) => {
            event.preventDefault();
            start();
          }}
        >
          <SiteChoice
            sites={sites}
            uses={uses}
            isOncePerSite={!recipe.repeatable && name.trim() === ''}
            chosen={chosen}
            onChoose={setChosen}
          />
          {meant.length > 0 && (
            <section
              className="rounded-xl border border-line bg-surface p-4 sm:p-5"
              aria-label={RECIPES.values}
            >
              <h2 className="mb-3">{meant.length === 1 ? RECIPES.itsValues : RECIPES.theirValues}</h2>
              <ValuesForm sites={meant} fields={recipe.fields} typed={typed} onType={setTyped} />
              <Field
                className="mt-4 border-t border-line pt-4"
                label={RECIPES.nameSnippet}
                placeholder={recipe.name}
                hint={RECIPES.secondInstallOne}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            </section>
          )}
          <div className="flex flex-wrap items-center gap-3">
            <Button
              type="submit"
              look="primary"
              isBusy={apply.isPending}
              disabled={meant.length === 0 || isWrong}
            >
              {meant.length === 0
                ? RECIPES.chooseSite
                : meant.length === 1
                  ? say(RECIPES.installOnOne, { site: meant[0]!.name })
                  : say(RECIPES.installOnMany, { count: meant.length })}
            </Button>
            <p className="text-sm text-muted">{RECIPES.whatLeftEmpty}</p>
          </div>
        </form>
      )}
    </main>
  );
}

interface SiteChoiceProps {
  readonly sites: readonly SiteSummaryResource[];
  readonly uses: RecipeResource['uses'];
  /** A second install on a site must be meant: it needs a name of its own. */
  readonly isOncePerSite: boolean;
  readonly chosen: readonly string[];
  readonly onChoose: (chosen: readonly string[]) => void;
}

function SiteChoice({ sites, uses, isOncePerSite, chosen, onChoose }: SiteChoiceProps) {
  const installOn = (key: string) => uses.find(({ site }) => site === key);
  // Those that have it already come last.
  const ordered = [...sites].sort((a, b) => Number(!!installOn(a.key)) - Number(!!installOn(b.key)));
  const all = sites.filter(({ key }) => !isOncePerSite || !installOn(key)).map(({ key }) => key);
  const isAll = all.every((key) => chosen.includes(key));
  return (
    <fieldset className="rounded-xl border border-line bg-surface p-4 sm:p-5">
      <legend className="sr-only">{RECIPES.whichSites}</legend>
      <div className="mb-2 flex items-center justify-between gap-3">
        <h2 aria-hidden>{RECIPES.whichSites}</h2>
        {all.length > 1 && (
          <Button look="quiet" size="small" onClick={() => onChoose(isAll ? [] : all)}>
            {isAll
              ? RECIPES.none
              : isOncePerSite && all.length < sites.length
                ? RECIPES.allWithout
                : RECIPES.all}
          </Button>
        )}
      </div>
      <ul className="grid max-h-72 gap-1 overflow-y-auto sm:grid-cols-2">
        {ordered.map(({ key, name }) => {
          const there = installOn(key);
          return (
            <li key={key}>
              <label className="flex items-center gap-2 rounded px-1 py-1 text-sm hover:bg-line/40">
                <input
                  type="checkbox"
                  className="size-4 accent-primary"
                  checked={chosen.includes(key)}
                  onChange={() =>
                    onChoose(
                      chosen.includes(key) ? chosen.filter((entry) => entry !== key) : [...chosen, key],
                    )
                  }
                />
                <span>
                  {name}
                  {there && <span className="text-muted"> {say(RECIPES.hasName, { name: there.name })}</span>}
                  {there && isOncePerSite && chosen.includes(key) && (
                    <span className="block text-[13px] text-signal">{RECIPES.secondOneThere}</span>
                  )}
                </span>
              </label>
            </li>
          );
        })}
      </ul>
    </fieldset>
  );
}
