import { RecipeBook, type Facts } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { BookMarked } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { INSTEAD } from '../../ui/unsaved-guard';
import { allRecipesQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

/** Says that there is a recipe for code that is being pasted; nothing where there is none. */
export function RecognisedRecipe({ site, facts }: { site: string; facts: Facts }) {
  const recipes = useQuery(allRecipesQuery).data;
  const book = useMemo(() => new RecipeBook(recipes), [recipes]);
  const recipe = book.recognise(facts);
  if (!recipe) return null;
  return (
    <div
      role="status"
      className="mt-4 flex flex-wrap items-center gap-3 rounded-lg bg-primary-soft p-3 text-sm text-primary"
    >
      <BookMarked className="size-4 shrink-0" aria-hidden />
      <p className="min-w-52 flex-1">
        {recipe.retired
          ? say(SNIPPET.installNameWhich, { name: recipe.name, reason: recipe.retired.reason })
          : say(SNIPPET.thereRecipeName, { name: recipe.name, provider: recipe.provider })}
      </p>
      <Button asChild size="small">
        <Link to={`/recipes/${recipe.retired?.replacedBy ?? recipe.key}?site=${site}`} state={INSTEAD}>
          {SNIPPET.seeRecipe}
        </Link>
      </Button>
    </div>
  );
}
