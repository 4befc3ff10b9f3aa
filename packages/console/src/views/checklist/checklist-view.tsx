import type { ChecklistItemResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck } from 'lucide-react';
import { Link } from 'react-router';
import { useTickStep } from '../../api/mutations';
import { checklistQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Empty, Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { CHECKLIST } from '../../texts/checklist';
import { listed, rich } from '../../texts/rich';
import { say } from '../../texts/say';

/** What has to be done at the providers, ticked off by people. */
export function ChecklistView() {
  const site = useSiteKey();
  const checklist = useQuery(checklistQuery(site));
  const items = checklist.data ?? [];
  const open = items.filter(({ tick }) => !tick).length;
  return (
    <div className="max-w-3xl space-y-4">
      <div>
        <h1>{CHECKLIST.checklist}</h1>
        <p className="text-sm text-muted">{CHECKLIST.whatHasDone}</p>
      </div>
      {checklist.isPending && <Loading />}
      {checklist.isError && <Failure error={checklist.error} onRetry={() => void checklist.refetch()} />}
      {checklist.data?.length === 0 && (
        <Empty
          title={CHECKLIST.nothingHasDone}
          action={
            <Button asChild>
              <Link to={`/recipes?site=${site}`}>{CHECKLIST.recipes}</Link>
            </Button>
          }
        >
          {CHECKLIST.stepsComeFrom}
        </Empty>
      )}
      {items.length > 0 && (
        <p role="status" className={cn('flex items-center gap-2 text-sm', open === 0 && 'text-good')}>
          {open === 0 && <CircleCheck className="size-4" aria-hidden />}
          {open === 0
            ? CHECKLIST.allDone
            : say(CHECKLIST.someDone, { done: items.length - open, all: items.length })}
        </p>
      )}
      {byRecipe(items).map(({ recipe, name, snippets, some }) => (
        <section
          key={recipe}
          aria-label={name}
          className="rounded-xl border border-line bg-surface p-4 sm:p-5"
        >
          <h2>{name}</h2>
          <p className="mb-2 text-[13px] text-muted">
            {rich(CHECKLIST.forSnippets, {
              snippets: listed(
                snippets.map(({ key, name: called }) => ({
                  key,
                  element: (
                    <Link to={`../snippets/${key}`} className="hover:underline">
                      “{called}”
                    </Link>
                  ),
                })),
              ),
            })}
          </p>
          <ul className="space-y-1">
            {some.map((item) => (
              <Step key={`${item.step} ${item.host}`} site={site} item={item} />
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

function Step({ site, item }: { site: string; item: ChecklistItemResource }) {
  const change = useTickStep(site);
  const { recipe, step, host, title, help, tick } = item;
  return (
    <li>
      <label className="flex gap-3 rounded-md px-1 py-1.5 hover:bg-line/40">
        <input
          type="checkbox"
          className="mt-1 size-4 shrink-0 accent-primary"
          checked={tick !== null}
          disabled={change.isPending}
          onChange={(event) => change.run({ recipe, step, host, done: event.target.checked })}
        />
        <span className="min-w-0 text-sm">
          <span className={cn('[overflow-wrap:anywhere]', tick && 'text-muted')}>{title}</span>
          {tick ? (
            <span className="block text-[13px] text-muted">
              {tick.by}, <Time at={tick.at} />
            </span>
          ) : (
            help !== '' && <span className="block text-[13px] text-muted">{help}</span>
          )}
        </span>
      </label>
    </li>
  );
}

interface RecipeGroup {
  readonly recipe: string;
  readonly name: string;
  readonly snippets: ChecklistItemResource['snippets'];
  readonly some: readonly ChecklistItemResource[];
}

/** What is not all done comes first. */
function byRecipe(items: readonly ChecklistItemResource[]): RecipeGroup[] {
  const groups = [...new Set(items.map(({ recipe }) => recipe))].map((recipe) => {
    const some = items.filter((item) => item.recipe === recipe);
    return { recipe, name: some[0]!.recipeName, snippets: some[0]!.snippets, some };
  });
  const isOpen = ({ some }: RecipeGroup): boolean => some.some(({ tick }) => !tick);
  return [...groups.filter(isOpen), ...groups.filter((group) => !isOpen(group))];
}
