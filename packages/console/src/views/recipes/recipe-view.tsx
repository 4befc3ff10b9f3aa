import type { RecipeResource } from '@pragmatica/contract';
import { placementWords } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Download, PlusCircle } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { isNotFound } from '../../api/client';
import { recipeQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { WayBack } from '../../ui/way-back';
import { RecipeBadges } from './recipe-badges';
import { RetireButton } from './retire-button';
import { UsesList } from './uses-list';
import { RECIPES } from '../../texts/recipes';
import { listed, rich } from '../../texts/rich';
import { say } from '../../texts/say';

/** One recipe: what it installs and asks for, what is to be done besides, its versions and its installs. */
export function RecipeView() {
  const key = useParams()['recipe']!;
  const [query] = useSearchParams();
  const recipe = useQuery(recipeQuery(key));
  const isUnknown = isNotFound(recipe.error);
  return (
    <main className="mx-auto w-full max-w-4xl space-y-5 px-3 py-6 sm:px-5">
      {recipe.isPending && <Loading lines={5} label={RECIPES.loadingRecipe} />}
      {recipe.isError && !isUnknown && <Failure error={recipe.error} onRetry={() => void recipe.refetch()} />}
      {isUnknown && (
        <Empty
          title={RECIPES.thereNoSuch}
          action={
            <Button asChild>
              <Link to="/recipes">{RECIPES.toRecipes}</Link>
            </Button>
          }
        >
          {say(RECIPES.nothingHereCalled, { key })}
        </Empty>
      )}
      {recipe.data && <Recipe found={recipe.data} site={query.get('site')} />}
    </main>
  );
}

function Recipe({ found, site }: { found: RecipeResource; site: string | null }) {
  const { recipe, versions, uses } = found;
  return (
    <>
      <div>
        <WayBack to="/recipes">{RECIPES.heading}</WayBack>
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
          <h1>{recipe.name}</h1>
          <RecipeBadges recipe={recipe} behind={uses.filter(({ isBehind }) => isBehind).length} />
          <span className="text-sm text-muted">
            {say(RECIPES.versionVersionProvider, { version: recipe.version, provider: recipe.provider })}
          </span>
        </div>
        <p className="mt-1">{recipe.summary}</p>
      </div>
      {recipe.retired && (
        <p role="status" className="rounded-lg bg-signal-soft p-3 text-sm text-signal">
          {say(RECIPES.retiredReason, { reason: recipe.retired.reason })}
          {recipe.retired.replacedBy !== undefined && (
            <Link to={`/recipes/${recipe.retired.replacedBy}`} className="underline">
              {say(RECIPES.takeReplacedbyInstead, { replacedBy: recipe.retired.replacedBy })}
            </Link>
          )}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button asChild look={recipe.retired ? 'plain' : 'primary'}>
          <Link to={`apply${site === null ? '' : `?site=${site}`}`}>
            <PlusCircle className="size-4" aria-hidden /> {RECIPES.installSites}
          </Link>
        </Button>
        <Button asChild>
          <a
            href={`data:application/json;charset=utf-8,${encodeURIComponent(`${JSON.stringify(recipe, null, 2)}\n`)}`}
            download={`${recipe.key}${recipe.version === 1 ? '' : `.${recipe.version}`}.json`}
          >
            <Download className="size-4" aria-hidden /> {RECIPES.exportToFile}
          </a>
        </Button>
        <RetireButton recipe={recipe} />
      </div>
      <Section title={RECIPES.whatPutsInto}>
        <ul className="space-y-3">
          {recipe.parts.map(({ key, placement, code, statement, required }) => (
            <li key={key}>
              <p className="text-sm font-medium">
                {capital(placementWords(placement))}
                <span className="ml-2 font-normal text-muted">
                  {key}
                  {!required && `, ${RECIPES.mayBeLeftOut}`}
                </span>
              </p>
              {statement !== undefined && (
                <p className="text-[13px] text-muted">{say(RECIPES.providerSaysStatement, { statement })}</p>
              )}
              <pre className="mt-1 max-h-56 overflow-auto rounded-lg border border-line bg-raised px-3 py-2 font-mono text-xs whitespace-pre-wrap [overflow-wrap:anywhere]">
                {code}
              </pre>
            </li>
          ))}
        </ul>
        {recipe.after.length > 0 && (
          <p className="mt-3 text-sm">
            {rich(RECIPES.beforeMustCome, {
              recipes: listed(
                recipe.after.map((key) => ({
                  key,
                  element: (
                    <Link to={`/recipes/${key}`} className="font-medium hover:underline">
                      {key}
                    </Link>
                  ),
                })),
              ),
            })}
          </p>
        )}
        <p className="mt-3 text-[13px] text-muted">
          {recipe.repeatable ? RECIPES.mayStandPage : RECIPES.pageMayHave}
          {recipe.floats !== undefined && say(RECIPES.floatsOverPage, { floats: recipe.floats })}
          {recognition(recipe)}
        </p>
      </Section>
      {recipe.fields.length > 0 && (
        <Section title={RECIPES.whatAsks}>
          <dl className="space-y-2 text-sm">
            {recipe.fields.map(({ name, label, help, example, type, default: usual }) => (
              <div key={name}>
                <dt className="font-medium">
                  {label} <code className="ml-1 font-mono text-xs text-muted">@{`{${name}}`}</code>
                </dt>
                <dd className="text-muted">
                  {[
                    TYPES[type],
                    ...(usual === undefined ? [] : [say(RECIPES.mostlyUsual, { usual })]),
                    ...(example === undefined ? [] : [say(RECIPES.exampleExample, { example })]),
                  ].join(', ')}
                  {help !== undefined && `. ${help}`}
                </dd>
              </div>
            ))}
          </dl>
        </Section>
      )}
      {recipe.steps.length > 0 && (
        <Section title={RECIPES.doneProvider}>
          <ul className="list-disc space-y-1 pl-5 text-sm">
            {recipe.steps.map(({ key, title, help, per, environment }) => (
              <li key={key}>
                {title.replaceAll('{host}', per === 'host' ? RECIPES.eachHost : '')}
                {environment !== undefined && (
                  <span className="text-muted"> {say(RECIPES.environmentOnly, { environment })}</span>
                )}
                {help !== undefined && <span className="text-muted">. {help}</span>}
              </li>
            ))}
          </ul>
        </Section>
      )}
      <Section
        title={uses.length === 0 ? RECIPES.installs : say(RECIPES.installsCount, { count: uses.length })}
      >
        <UsesList uses={uses} />
      </Section>
      <Section title={RECIPES.versions}>
        <ol className="space-y-2">
          {versions.map(({ version, by, at, changes }) => (
            <li key={version} className="flex gap-3 text-sm">
              <span className="grid size-7 shrink-0 place-items-center rounded-full bg-paper font-mono text-[13px] font-semibold">
                {version}
              </span>
              <div>
                <p className="text-muted">
                  {by}, <Time at={at} />
                </p>
                {changes.map((change) => (
                  <p key={change}>{change}</p>
                ))}
              </div>
            </li>
          ))}
        </ol>
        <p className="mt-3 text-[13px] text-muted">{RECIPES.newerVersionChange}</p>
      </Section>
    </>
  );
}

const TYPES: Readonly<Record<RecipeResource['recipe']['fields'][number]['type'], string>> = {
  text: RECIPES.lineOfText,
  id: RECIPES.keyOrNumber,
  number: RECIPES.aNumber,
  flag: RECIPES.trueFalse,
  colour: RECIPES.aColour,
  url: RECIPES.address,
  phone: RECIPES.telephoneNumber,
};

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded-xl border border-line bg-surface p-4 sm:p-5">
      <h2 className="mb-3">{title}</h2>
      {children}
    </section>
  );
}

function recognition({ recognise: { hosts, addresses, globals } }: RecipeResource['recipe']): string {
  const told = [
    ...hosts.map((host) => say(RECIPES.scriptsFrom, { host })),
    ...addresses.map((address) => say(RECIPES.addressesLike, { address })),
    ...globals.map((name) => say(RECIPES.theName, { name })),
  ];
  return told.length === 0 ? '' : say(RECIPES.codePastedHand, { told });
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
