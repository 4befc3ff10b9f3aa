import { TRAIT_WORDS, type PageTrait } from '@pragmatica/core';
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { coverageQuery, surveyPagesQuery, type SurveyedPage } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { SearchField } from '../../ui/search-field';
import { Failure, Loading } from '../../ui/states';
import { useSettled } from '../../ui/use-settled';
import { isProblem, outcomeWords } from './page-outcome';
import { pagePath } from './page-path';
import { VirtualPages } from './virtual-pages';

const ONLY = [
  ['all', SURVEY.onlyAll],
  ['missing', SURVEY.onlyMissing],
  ['problems', SURVEY.onlyProblems],
  ['redirects', SURVEY.onlyRedirects],
] as const;

const ROW_PX = 52;

/** The pages of the site, by section, to search and to look into. */
export function PagesView() {
  const site = useSiteKey();
  const [address, setAddress] = useSearchParams();
  const [searched, setSearched] = useState('');
  const [only, setOnly] = useState<(typeof ONLY)[number][0]>('all');
  const section = address.get('section') ?? undefined;
  const [trait, setTrait] = useState<PageTrait>();
  const sighting = address.get('sighting');
  const q = useSettled(searched.trim());
  const list = useInfiniteQuery({
    ...surveyPagesQuery(site, {
      q,
      only,
      ...(section === undefined ? {} : { section }),
      ...(trait === undefined ? {} : { trait }),
      ...(sighting === null ? {} : { sighting: Number(sighting) }),
    }),
    placeholderData: keepPreviousData,
  });
  const sections = useSections(site);
  const traits = list.data?.pages[0]?.traits ?? [];
  const pages = list.data?.pages.flatMap(({ items }) => items) ?? [];
  const choose = (next: string | undefined): void =>
    setAddress(next === undefined ? {} : { section: next }, { replace: true });
  return (
    <section className="space-y-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <SearchField
          label={SURVEY.findPage}
          placeholder={SURVEY.findPage}
          value={searched}
          onChange={setSearched}
        />
        <div role="group" aria-label={SURVEY.whichPages} className="flex flex-wrap gap-1.5">
          {ONLY.map(([name, label]) => (
            <Chip key={name} isOn={name === only} onClick={() => setOnly(name)}>
              {label}
            </Chip>
          ))}
        </div>
      </div>
      {traits.length > 0 && (
        <div role="group" aria-label={SURVEY.unusual} className="flex flex-wrap items-center gap-1.5">
          <span className="text-[13px] text-muted">{SURVEY.unusual}</span>
          {traits.map((one) => (
            <Chip
              key={one.trait}
              isOn={one.trait === trait}
              onClick={() => setTrait(one.trait === trait ? undefined : one.trait)}
              count={one.pages}
            >
              {TRAIT_WORDS[one.trait].name}
            </Chip>
          ))}
        </div>
      )}
      {trait && <p className="text-sm text-muted">{TRAIT_WORDS[trait].why}</p>}
      <div className="grid gap-4 md:grid-cols-[11rem_minmax(0,1fr)]">
        <nav
          aria-label={SURVEY.section}
          className="flex gap-1 overflow-x-auto md:block md:max-h-[65vh] md:space-y-0.5 md:overflow-y-auto"
        >
          <SectionButton isOn={section === undefined} onClick={() => choose(undefined)}>
            {SURVEY.allSections}
          </SectionButton>
          {sections.map(([name, count]) => (
            <SectionButton key={name} isOn={section === name} onClick={() => choose(name)} count={count}>
              {name}
            </SectionButton>
          ))}
        </nav>
        <div className="min-w-0 space-y-2">
          {list.isPending && <Loading />}
          {list.isError && <Failure error={list.error} onRetry={() => void list.refetch()} />}
          {list.data && (
            <p role="status" className="text-[13px] text-muted">
              {pages.length === 0
                ? SURVEY.noPage
                : say(SURVEY.totalPages, { total: list.data.pages[0]!.total })}
            </p>
          )}
          {pages.length > 0 && (
            <VirtualPages
              pages={pages}
              label={SURVEY.tabPages}
              rowHeight={ROW_PX}
              hasMore={list.hasNextPage && !list.isFetchingNextPage}
              onMore={() => void list.fetchNextPage()}
            >
              {(page) => <PageRow site={site} page={page} />}
            </VirtualPages>
          )}
        </div>
      </div>
    </section>
  );
}

/** Sections with how many pages each has, by name. */
function useSections(site: string): readonly (readonly [section: string, pages: number])[] {
  const rows = useQuery(coverageQuery(site)).data?.rows;
  return useMemo(() => {
    const counts = new Map<string, number>();
    for (const { section, pages } of rows ?? []) counts.set(section, (counts.get(section) ?? 0) + pages);
    return [...counts].sort(([a], [b]) => (a < b ? -1 : 1));
  }, [rows]);
}

interface SectionButtonProps {
  readonly isOn: boolean;
  readonly onClick: () => void;
  readonly count?: number;
  readonly children: string;
}

function SectionButton({ isOn, onClick, count, children }: SectionButtonProps) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onClick}
      className="flex w-full items-center justify-between gap-2 rounded-md px-2.5 py-1 text-left text-[13px] whitespace-nowrap text-muted hover:text-ink aria-pressed:bg-primary-soft aria-pressed:text-primary"
    >
      <span className="truncate font-mono text-xs">{children}</span>
      {count !== undefined && <span className="tabular-nums">{count}</span>}
    </button>
  );
}

function PageRow({ site, page }: { site: string; page: SurveyedPage }) {
  const outcome = outcomeWords(page);
  const lacks =
    page.missing.length > 0 ? say(SURVEY.missingParts, { parts: page.missing.join(', ') }) : undefined;
  const said = lacks ?? outcome;
  return (
    <Link
      to={pagePath(site, page.path)}
      className="flex h-full items-center gap-3 px-4 hover:bg-paper focus-visible:-outline-offset-2"
    >
      <span className="min-w-0 flex-1">
        <span className="block truncate font-mono text-xs">{page.path}</span>
        <span className="block truncate text-sm text-muted">{page.title}</span>
      </span>
      {said ? (
        <span
          className={cn(
            'max-w-1/2 truncate text-[13px]',
            lacks !== undefined || isProblem(page) ? 'text-danger' : 'text-muted',
          )}
        >
          {said}
        </span>
      ) : (
        page.type &&
        page.type !== 'other' && <span className="text-[13px] text-muted">{SURVEY.pageTypes[page.type]}</span>
      )}
    </Link>
  );
}
