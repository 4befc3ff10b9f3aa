import type { RecipeUpdate } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CircleArrowUp, CircleCheck, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useUpdateFromRecipes } from '../../api/mutations';
import { recipeUpdatesQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { ResultList } from '../../ui/result-list';
import { Failure, Loading } from '../../ui/states';
import { WayBack } from '../../ui/way-back';
import { CodeDifference } from '../findings/code-difference';
import { RECIPES } from '../../texts/recipes';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

interface Outcome {
  readonly key: string;
  readonly title: string;
  readonly isDone: boolean;
  readonly message: string;
}

const keyOf = ({ site, snippet }: { readonly site: string; readonly snippet: string }): string =>
  `${site}/${snippet}`;

/** Snippets that are behind their recipes: what bringing each up would change, one by one or all at once. */
export function UpdatesView() {
  const updates = useQuery(recipeUpdatesQuery);
  const [query] = useSearchParams();
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const change = useUpdateFromRecipes();
  const only =
    query.get('snippet') === null ? undefined : `${query.get('site') ?? ''}/${query.get('snippet')!}`;
  const shown = updates.data?.filter((update) => only === undefined || keyOf(update) === only) ?? [];
  const easy = shown.filter(({ replaced }) => replaced.length === 0);
  const mergeVersion = (meant: readonly RecipeUpdate[], replaceEdits: boolean): void =>
    change.run({ snippets: meant.map(({ site, snippet }) => ({ site, snippet })), replaceEdits }, (results) =>
      setOutcomes((before) => [
        ...before,
        ...results.map((result) => {
          const update = meant.find((entry) => keyOf(entry) === keyOf(result))!;
          return {
            ...result,
            key: keyOf(result),
            title: say(RECIPES.sitenameName, { siteName: update.siteName, name: update.name }),
          };
        }),
      ]),
    );
  return (
    <main className="mx-auto w-full max-w-4xl space-y-4 px-3 py-6 sm:px-5">
      <div>
        <WayBack to="/recipes">{RECIPES.heading}</WayBack>
        <div className="flex flex-wrap items-end justify-between gap-3">
          <div>
            <h1>{RECIPES.snippetsBehind}</h1>
            <p className="text-sm text-muted">{RECIPES.theirRecipesHave}</p>
          </div>
          {easy.length > 1 && (
            <Button look="primary" isBusy={change.isPending} onClick={() => mergeVersion(easy, false)}>
              <CircleArrowUp className="size-4" aria-hidden />{' '}
              {say(RECIPES.bringUpAll, { count: easy.length })}
            </Button>
          )}
        </div>
      </div>
      {updates.isPending && <Loading />}
      {updates.isError && <Failure error={updates.error} onRetry={() => void updates.refetch()} />}
      {outcomes.length > 0 && (
        <section aria-label={RECIPES.results} className="rounded-xl border border-line bg-surface p-4">
          <ResultList results={outcomes} />
          <p className="mt-3 text-sm">
            {rich(RECIPES.whereSeveralCan, {
              sites: (
                <Link to="/" className="font-medium underline">
                  {RECIPES.sites}
                </Link>
              ),
            })}
          </p>
        </section>
      )}
      {updates.data && shown.length === 0 && (
        <div className="flex items-center gap-3 rounded-xl border border-line bg-surface p-4">
          <CircleCheck className="size-6 shrink-0 text-good" aria-hidden />
          <p>{only === undefined ? RECIPES.everySnippetFollows : RECIPES.snippetFollowsNewest}</p>
        </div>
      )}
      {byRecipe(shown).map(({ recipe, name, to, news, some }) => (
        <section key={recipe} aria-label={name} className="space-y-3">
          <div>
            <h2>
              {rich(RECIPES.nameAndVersion, {
                name: (
                  <Link to={`/recipes/${recipe}`} className="hover:underline">
                    {name}
                  </Link>
                ),
                version: to,
              })}
            </h2>
            <ul className="list-disc pl-5 text-sm">
              {news.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </div>
          <ul className="space-y-3">
            {some.map((update) => (
              <UpdateCard
                key={keyOf(update)}
                update={update}
                isBusy={change.isPending}
                onBringUp={() => mergeVersion([update], update.replaced.length > 0)}
              />
            ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

interface UpdateCardProps {
  readonly update: RecipeUpdate;
  readonly isBusy: boolean;
  readonly onBringUp: () => void;
}

function UpdateCard({ update, isBusy, onBringUp }: UpdateCardProps) {
  const { site, siteName, snippet, name, from, to, changes, code, replaced } = update;
  return (
    <li className="rounded-xl border border-line bg-surface p-4">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h3 className="font-semibold">
          <Link to={`/sites/${site}/snippets/${snippet}`} className="hover:underline">
            {siteName}, “{name}”
          </Link>
        </h3>
        <span className="text-sm text-muted">{say(RECIPES.versionFrom, { from, to })}</span>
        <Button
          className="ml-auto"
          size="small"
          look={replaced.length > 0 ? 'danger' : 'primary'}
          disabled={isBusy}
          onClick={onBringUp}
        >
          {replaced.length > 0 ? RECIPES.replaceWhatWas : RECIPES.bringUp}
        </Button>
      </div>
      {replaced.length > 0 && (
        <div className="mt-3 flex gap-2 rounded-lg bg-signal-soft p-3 text-sm text-signal">
          <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />
          <div>
            {replaced.map((line) => (
              <p key={line}>{line}</p>
            ))}
          </div>
        </div>
      )}
      <ul className="mt-2 list-disc pl-5 text-sm text-muted">
        {changes.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {code.map(({ part, before, after }) => (
        <CodeDifference key={part} title={part} before={before} after={after} />
      ))}
    </li>
  );
}

interface RecipeGroup {
  readonly recipe: string;
  readonly name: string;
  readonly to: number;
  readonly news: readonly string[];
  readonly some: readonly RecipeUpdate[];
}

function byRecipe(updates: readonly RecipeUpdate[]): RecipeGroup[] {
  return [...new Set(updates.map(({ recipe }) => recipe))].map((recipe) => {
    const some = updates.filter((update) => update.recipe === recipe);
    const oldest = some.reduce((a, b) => (b.from < a.from ? b : a));
    return { recipe, name: oldest.recipeName, to: oldest.to, news: oldest.news, some };
  });
}
