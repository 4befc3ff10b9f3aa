import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import { Link, Outlet, useSearchParams } from 'react-router';
import { HELP } from '../../texts/help';
import { say } from '../../texts/say';
import { SearchField } from '../../ui/search-field';
import { Failure, Loading } from '../../ui/states';
import { documentsQuery } from './documents';
import { helpSearch } from './search';
import { titleOf } from './sections';

/** The documents: a search over all of them, and the one that is read. */
export function HelpLayout() {
  const documents = useQuery(documentsQuery);
  const [params, setParams] = useSearchParams();
  const words = params.get('q') ?? '';
  const wanted = useDeferredValue(words.trim());
  const search = useMemo(() => documents.data && helpSearch(documents.data), [documents.data]);
  const hits = useMemo(() => (search && wanted !== '' ? search(wanted) : undefined), [search, wanted]);
  return (
    <main className="mx-auto w-full max-w-5xl space-y-5 px-3 py-6 sm:px-5">
      <div className="max-w-md">
        <SearchField
          label={HELP.search}
          placeholder={HELP.search}
          value={words}
          onChange={(value) => setParams(value === '' ? {} : { q: value }, { replace: true })}
        />
      </div>
      {documents.isPending && <Loading label={HELP.loading} />}
      {documents.isError && <Failure error={documents.error} onRetry={() => void documents.refetch()} />}
      {hits && documents.data && (
        <section aria-label={HELP.search} className="space-y-3">
          <p role="status" className="text-sm text-muted">
            {say(HELP.results, { count: hits.length, words: wanted })}
          </p>
          <ol
            className="divide-y divide-line rounded-xl border border-line bg-surface empty:hidden"
            lang="en"
          >
            {hits.map(({ id, page, title, excerpt }) => (
              <li key={id}>
                <Link to={`/help/${id}`} className="block px-4 py-3 hover:bg-paper">
                  <span className="font-medium">{title}</span>
                  <span className="ml-2 text-[13px] text-muted">{titleOf(documents.data.get(page)!)}</span>
                  <span className="block text-sm text-muted">{excerpt}</span>
                </Link>
              </li>
            ))}
          </ol>
        </section>
      )}
      {documents.data && !hits && <Outlet context={documents.data} />}
    </main>
  );
}
