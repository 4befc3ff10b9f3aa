import type { RecipeSummary } from '@pragmatica/contract';
import { RECIPES } from '../../texts/recipes';
import { say } from '../../texts/say';

const style = 'rounded-full bg-signal-soft px-2 py-0.5 text-xs font-medium text-signal';

/** What is to be known of a recipe at once: that it is given up, that installs are behind. */
export function RecipeBadges({ recipe, behind }: Pick<RecipeSummary, 'recipe' | 'behind'>) {
  return (
    <>
      {recipe.retired && <span className={style}>{RECIPES.retired}</span>}
      {behind > 0 && <span className={style}>{say(RECIPES.behindBehind, { behind })}</span>}
    </>
  );
}
