import type { CoverageResource } from '@pragmatica/contract';
import type { PageType } from '@pragmatica/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { surveyPagesQuery } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Failure, Loading } from '../../ui/states';
import { Mark } from './coverage-mark';
import { pageCellState } from './coverage-state';
import { pagePath } from './page-path';
import { VirtualPages } from './virtual-pages';

interface CoveragePagesProps {
  readonly site: string;
  readonly section: string;
  readonly type: PageType;
  readonly snippets: CoverageResource['snippets'];
}

const ROW_PX = 34;

/** The pages of one section, each with what should be on it. */
export function CoveragePages({ site, section, type, snippets }: CoveragePagesProps) {
  const list = useInfiniteQuery(surveyPagesQuery(site, { section, type }));
  const pages = list.data?.pages.flatMap(({ items }) => items) ?? [];
  if (list.isPending)
    return (
      <div className="px-3">
        <Loading lines={2} />
      </div>
    );
  if (hasFailed(list)) return <Failure error={list.error} onRetry={() => void list.refetch()} />;
  return (
    <div className="p-2">
      <VirtualPages
        pages={pages}
        label={say(SURVEY.pagesOf, { section })}
        rowHeight={ROW_PX}
        hasMore={list.hasNextPage && !list.isFetchingNextPage}
        onMore={() => void list.fetchNextPage()}
      >
        {(page) => (
          <div className="flex h-full items-center gap-2 px-3">
            <Link
              to={pagePath(site, page.path)}
              className="min-w-0 flex-1 truncate font-mono text-xs hover:underline"
            >
              {page.path}
            </Link>
            {snippets.map(({ snippet, name }) => {
              const state = pageCellState(snippet, page.expected, page.missing);
              return state === 'none' ? undefined : (
                <Mark
                  key={snippet}
                  state={state}
                  label={`${name}: ${state === 'all' ? SURVEY.legendAll : SURVEY.legendMissing}`}
                />
              );
            })}
          </div>
        )}
      </VirtualPages>
    </div>
  );
}
