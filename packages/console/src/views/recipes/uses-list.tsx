import { say } from '../../texts/say';
import type { RecipeUseResource } from '@pragmatica/contract';
import { Link } from 'react-router';
import { RECIPES } from '../../texts/recipes';

/** The snippets of all drafts that are installs of a recipe. */
export function UsesList({ uses }: { uses: readonly RecipeUseResource[] }) {
  if (uses.length === 0) return <p className="text-sm text-muted">{RECIPES.noSiteHas}</p>;
  return (
    <ul className="divide-y divide-line text-sm">
      {uses.map(({ site, siteName, snippet, name, state, version, isBehind }) => (
        <li key={`${site} ${snippet}`} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
          <Link to={`/sites/${site}/snippets/${snippet}`} className="font-medium hover:underline">
            {name}
          </Link>
          <span className="text-muted">
            {siteName}
            {state === 'off' && RECIPES.switchedOff}
          </span>
          <span className="ml-auto text-muted">
            {version === null ? RECIPES.pastedHandRecognised : say(RECIPES.versionOf, { version })}
          </span>
          {isBehind && (
            <Link
              to={`/recipes/updates?site=${site}&snippet=${snippet}`}
              className="text-signal hover:underline"
            >
              {RECIPES.behind}
            </Link>
          )}
        </li>
      ))}
    </ul>
  );
}
