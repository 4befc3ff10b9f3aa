import type { SiteSummaryResource } from '@pragmatica/contract';
import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowRight, Braces, CircleCheck, CircleDot, LoaderCircle, Plus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { sessionQuery } from '../../api/queries';
import { refreshSites, siteListQuery, type SiteFilter } from '../../api/site-lists';
import { Button } from '../../ui/button';
import { Chip } from '../../ui/chip';
import { MoreButton } from '../../ui/more-button';
import { SearchField } from '../../ui/search-field';
import { Empty, Failure, Loading } from '../../ui/states';
import { SeverityCounts } from '../../ui/severity-counts';
import { useSettled } from '../../ui/use-settled';
import { AddSiteDialog } from './add-site-dialog';
import { ImportSite } from './import-site';
import { PublishSites } from './publish-sites';
import { SITES } from '../../texts/sites';
import { TourOffer } from '../tour/tour-offer';
import { say } from '../../texts/say';

const FILTERS: readonly { readonly filter: SiteFilter; readonly label: string }[] = [
  { filter: 'all', label: SITES.all },
  { filter: 'attention', label: SITES.needAttention },
  { filter: 'unpublished', label: SITES.notLiveYet },
];

export function SitesView() {
  const [isAdding, setAdding] = useState(false);
  const [searched, setSearched] = useState('');
  const [filter, setFilter] = useState<SiteFilter>('all');
  const asked = useSettled(searched.trim());
  const sites = useInfiniteQuery({ ...siteListQuery(asked, filter), placeholderData: keepPreviousData });
  const counts = sites.data?.pages[0]?.counts;
  const shown = sites.data?.pages.flatMap(({ items }) => items) ?? [];
  useRefreshWhile(shown.some(({ isBeingChecked }) => isBeingChecked));
  const hasNone = counts?.all === 0 && asked === '';
  const isNarrowed = asked !== '' || filter !== 'all';
  // Adding a site is for those who own the installation; the others are invited to sites.
  const mayAdd = useQuery(sessionQuery).data?.role === 'own';
  const addButton = mayAdd && (
    <Button look="primary" onClick={() => setAdding(true)}>
      <Plus className="size-4" aria-hidden /> {SITES.addSite}
    </Button>
  );
  return (
    <main className="mx-auto w-full max-w-5xl px-3 py-6 sm:px-5">
      <TourOffer sites={shown.map(({ key }) => key)} />
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 data-tour="sites">{SITES.sites}</h1>
          {counts && counts.all > 0 && asked === '' && (
            <p className="text-sm text-muted">
              {counts.attention === 0
                ? SITES.allWell
                : say(SITES.attentionAllNeeds, { attention: counts.attention, all: counts.all })}
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          {counts && (counts.all > 1 || isNarrowed) && (
            <>
              <Button asChild>
                <Link to="/fields">
                  <Braces className="size-4" aria-hidden /> {SITES.fieldsAllSites}
                </Link>
              </Button>
              <PublishSites count={counts.unpublished} />
            </>
          )}
          {mayAdd && <ImportSite />}
          {addButton}
        </div>
      </div>
      {sites.isPending && <Loading />}
      {sites.isError && <Failure error={sites.error} onRetry={() => void sites.refetch()} />}
      {hasNone && (
        <Empty
          title={mayAdd ? SITES.noSitesYet : SITES.noSitesForYou}
          action={
            <div className="flex flex-wrap justify-center gap-2">
              {addButton}
              <Button asChild>
                <Link to="/help/first-steps">{SITES.firstSteps}</Link>
              </Button>
            </div>
          }
        >
          {mayAdd ? SITES.addFirstWebsite : SITES.askForSites}
        </Empty>
      )}
      {counts && (counts.all >= MANY || isNarrowed) && (
        <div className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-2">
          <SearchField
            label={SITES.findSite}
            placeholder={SITES.findNameHost}
            value={searched}
            onChange={setSearched}
          />
          <div role="group" aria-label={SITES.whichSites} className="flex flex-wrap gap-1.5">
            {FILTERS.map((entry) => (
              <Chip
                key={entry.filter}
                isOn={entry.filter === filter}
                onClick={() => setFilter(entry.filter)}
                count={counts[entry.filter]}
              >
                {entry.label}
              </Chip>
            ))}
          </div>
        </div>
      )}
      {counts && isNarrowed && shown.length === 0 && (
        <p className="text-sm text-muted">{nothingWords(asked, filter)}</p>
      )}
      <ul className="space-y-3">
        {shown.map((site) => (
          <li key={site.key}>
            <SiteCard site={site} />
          </li>
        ))}
      </ul>
      <MoreButton list={sites}>{SITES.moreSites}</MoreButton>
      <AddSiteDialog isOpen={isAdding} onOpenChange={setAdding} />
    </main>
  );
}

function nothingWords(asked: string, filter: SiteFilter): string {
  if (filter === 'all') return say(SITES.noSiteHas, { asked });
  const which = asked === '' ? SITES.noSite : say(SITES.noSiteAsked, { asked });
  return say(filter === 'attention' ? SITES.noneNeedsYou : SITES.noneHasChanges, { which });
}

/** What was changed a moment ago is checked again by now. */
const ASKED_AGAIN_MS = 700;

/** Asks again for what has changed as long as something is under way. */
function useRefreshWhile(isUnderWay: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!isUnderWay) return undefined;
    const timer = setInterval(() => void refreshSites(client), ASKED_AGAIN_MS);
    return () => clearInterval(timer);
  }, [client, isUnderWay]);
}

/** So many sites are more than one looks over. */
const MANY = 5;

function SiteCard({ site }: { site: SiteSummaryResource }) {
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
        <span className="text-sm text-muted">{live?.host ?? SITES.noLiveHost}</span>
        <SeverityCounts counts={site.findings} />
        <span className="ml-auto flex items-center gap-1 text-sm text-muted">
          {release === null ? SITES.nothingPublished : say(SITES.releaseReleaseLive, { release })}
          <ArrowRight className="size-4" aria-hidden />
        </span>
      </div>
      <p className="mt-0.5 text-sm text-muted">
        {say(SITES.snippetOffOff, { on: site.snippets.on, off: site.snippets.off })}
        {site.snippets.archived > 0 && `, ${site.snippets.archived} archived`}
        {site.isBeingChecked && (
          <span role="status" className="ml-2 inline-flex items-center gap-1 align-bottom">
            <LoaderCircle className="size-3.5 animate-spin" aria-hidden /> {SITES.checkingLastChange}
          </span>
        )}
      </p>
      <ul className="mt-3 space-y-1.5 text-sm">
        {site.attention.map((entry, index) => (
          <li key={index} className="flex gap-2">
            <CircleDot className="mt-0.5 size-4 shrink-0 text-signal" aria-hidden />
            {entry.message}
          </li>
        ))}
        {site.attention.length === 0 && !site.isBeingChecked && (
          <li className="flex gap-2 text-good">
            <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden />
            {SITES.whatSavedWhat}
          </li>
        )}
      </ul>
    </article>
  );
}
