import type { SiteResource, SnippetResource } from '@pragmatica/contract';
import { RecipeBook, recipeUses, type Recipe } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { BookMarked } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useFollowRecipe, useLeaveRecipe } from '../../api/mutations';
import { factsCache } from '../../api/facts';
import { siteQuery } from '../../api/queries';
import { allRecipesQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';
import { MakeRecipeDialog } from './make-recipe-dialog';
import { SNIPPET } from '../../texts/snippet';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

interface RecipePanelProps {
  readonly site: string;
  readonly snippet: SnippetResource;
  readonly etag: string;
}

/** The recipe that a snippet's code tells; undefined where it tells none. */
function recognised(
  { recipe: _, ...snippet }: SnippetResource,
  { key, name, timeZone, fields }: SiteResource,
  book: RecipeBook,
): Recipe | undefined {
  const set = {
    format: 'pragmatica-set/1' as const,
    site: { key, name, timeZone, fields },
    snippets: [snippet],
  };
  return recipeUses(set, book, (code) => factsCache.read(code).facts)[0]?.recipe;
}

/** Which recipe a snippet follows, whether it is behind, and how to make one of it. */
export function RecipePanel({ site, snippet, etag }: RecipePanelProps) {
  const book = new RecipeBook(useQuery(allRecipesQuery).data);
  const home = useQuery(siteQuery(site)).data?.data;
  const [isMaking, setMaking] = useState(false);
  const leave = useLeaveRecipe(site, snippet.key);
  const follow = useFollowRecipe(site, snippet.key);
  const toast = useToast();
  const link = snippet.recipe;
  const found = link ? book.find(link.key) : undefined;
  const seen = home && !link ? recognised(snippet, home, book) : undefined;
  const isBehind = found !== undefined && link !== null && found.version > link.version;
  return (
    <section
      aria-label={SNIPPET.recipe}
      className="flex max-w-4xl flex-wrap items-center gap-x-3 gap-y-2 rounded-xl border border-line bg-surface p-3 text-sm sm:px-5"
    >
      <BookMarked className="size-4 shrink-0 text-muted" aria-hidden />
      {link ? (
        <p className="min-w-52 flex-1">
          {rich(SNIPPET.followsRecipe, {
            recipe: (
              <Link to={`/recipes/${link.key}`} className="font-medium hover:underline">
                {found?.name ?? link.key}
              </Link>
            ),
            version: link.version,
          })}
          {isBehind && (
            <span className="text-signal">
              {' '}
              {say(SNIPPET.thereVersionVersion, { version: found.version })}
            </span>
          )}
        </p>
      ) : (
        <p className="min-w-52 flex-1 text-muted">
          {seen
            ? rich(SNIPPET.pastedHandLooks, {
                recipe: (
                  <Link to={`/recipes/${seen.key}`} className="font-medium text-ink hover:underline">
                    {seen.name}
                  </Link>
                ),
              })
            : SNIPPET.followsNoRecipe}
        </p>
      )}
      {isBehind && (
        <Button asChild size="small" look="primary">
          <Link to={`/recipes/updates?site=${site}&snippet=${snippet.key}`}>{SNIPPET.seeWhatWould}</Link>
        </Button>
      )}
      {seen && (
        <Button
          size="small"
          look="primary"
          needs="edit"
          isBusy={follow.isPending}
          onClick={() =>
            follow.run(seen.key, () =>
              toast({
                tone: 'done',
                title: say(SNIPPET.followsNameFrom, { name: seen.name }),
                text: SNIPPET.valuesFieldsSite,
              }),
            )
          }
        >
          {SNIPPET.letFollowRecipe}
        </Button>
      )}
      {!isBehind && (
        <Button size="small" onClick={() => setMaking(true)}>
          {link ? SNIPPET.makeNextVersionOf : SNIPPET.makeA}
        </Button>
      )}
      {link && (
        <Button
          size="small"
          look="quiet"
          isBusy={leave.isPending}
          onClick={() =>
            leave.run({ etag }, () =>
              toast({
                tone: 'done',
                title: SNIPPET.noLongerFollows,
                text: SNIPPET.codeWasNewer,
              }),
            )
          }
        >
          {SNIPPET.letGoOwn}
        </Button>
      )}
      {isMaking && <MakeRecipeDialog site={site} snippet={snippet} onClose={() => setMaking(false)} />}
    </section>
  );
}
