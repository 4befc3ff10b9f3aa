import type { SiteResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { ArrowRight, Braces, CircleCheck, CircleDot, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { sitesQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { SearchField, hasWords } from '../../ui/search-field';
import { Empty, Failure, Loading } from '../../ui/states';
import { SeverityCounts } from '../../ui/severity-counts';
import { AddSiteDialog } from './add-site-dialog';
import { PublishSites } from './publish-sites';

export function SitesView() {
  const sites = useQuery(sitesQuery);
  const [isAdding, setAdding] = useState(false);
  const [searched, setSearched] = useState('');
  const shown =
    sites.data?.filter(({ key, name, hosts }) =>
      hasWords([key, name, ...hosts.map(({ host }) => host)], searched),
    ) ?? [];
  const needing = sites.data?.filter((site) => site.attention.length > 0).length ?? 0;
  const addButton = (
    <Button look="primary" onClick={() => setAdding(true)}>
      <Plus className="size-4" aria-hidden /> Add a site
    </Button>
  );
  return (
    <main className="mx-auto w-full max-w-5xl px-3 py-6 sm:px-5">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>Sites</h1>
          {sites.data && sites.data.length > 0 && (
            <p className="text-sm text-muted">
              {needing === 0
                ? 'All is well.'
                : `${needing} of ${sites.data.length} ${needing === 1 ? 'needs' : 'need'} your attention.`}
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          {sites.data && sites.data.length > 1 && (
            <>
              <Button asChild>
                <Link to="/fields">
                  <Braces className="size-4" aria-hidden /> Fields of all sites
                </Link>
              </Button>
              <PublishSites sites={sites.data} />
            </>
          )}
          {addButton}
        </div>
      </div>
      {sites.isPending && <Loading />}
      {sites.isError && <Failure error={sites.error} onRetry={() => void sites.refetch()} />}
      {sites.data?.length === 0 && (
        <Empty title="No sites yet" action={addButton}>
          Add the first website whose snippets you look after. You need its address and the address of the
          server that holds its pages.
        </Empty>
      )}
      {sites.data && sites.data.length >= MANY && (
        <SearchField
          className="mb-3"
          label="Find a site"
          placeholder="Find by name or host"
          value={searched}
          onChange={setSearched}
        />
      )}
      {searched !== '' && shown.length === 0 && (
        <p className="text-sm text-muted">No site has “{searched}” in its name or hosts.</p>
      )}
      <ul className="space-y-3">
        {shown.map((site) => (
          <li key={site.key}>
            <SiteCard site={site} />
          </li>
        ))}
      </ul>
      <AddSiteDialog isOpen={isAdding} onOpenChange={setAdding} />
    </main>
  );
}

/** So many sites are more than one looks over. */
const MANY = 5;

function SiteCard({ site }: { site: SiteResource }) {
  const live = site.hosts.find((host) => host.environment === 'live');
  const release = site.environments.live;
  return (
    <article className="relative rounded-xl border border-line bg-surface p-4 shadow-card transition-colors hover:border-line-strong sm:p-5">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="text-lg">
          <Link to={`/sites/${site.key}/strip`} className="after:absolute after:inset-0 after:rounded-xl">
            {site.name}
          </Link>
        </h2>
        <span className="text-sm text-muted">{live?.host ?? 'no live host'}</span>
        <SeverityCounts counts={site.findings} />
        <span className="ml-auto flex items-center gap-1 text-sm text-muted">
          {release === null ? 'nothing published' : `release ${release} is live`}
          <ArrowRight className="size-4" aria-hidden />
        </span>
      </div>
      <p className="mt-0.5 text-sm text-muted">
        {site.snippets.on} {site.snippets.on === 1 ? 'snippet' : 'snippets'} on, {site.snippets.off} off
        {site.snippets.archived > 0 && `, ${site.snippets.archived} archived`}
      </p>
      <ul className="mt-3 space-y-1.5 text-sm">
        {site.attention.map((entry, index) => (
          <li key={index} className="flex gap-2">
            <CircleDot className="mt-0.5 size-4 shrink-0 text-signal" aria-hidden />
            {entry.message}
          </li>
        ))}
        {site.attention.length === 0 && (
          <li className="flex gap-2 text-good">
            <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden />
            What is saved is what visitors get.
          </li>
        )}
      </ul>
    </article>
  );
}
