import { useInfiniteQuery, keepPreviousData } from '@tanstack/react-query';
import { ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { sightingsQuery, type Sighting } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { MoreButton } from '../../ui/more-button';
import { SearchField } from '../../ui/search-field';
import { Failure, Loading } from '../../ui/states';
import { useSettled } from '../../ui/use-settled';
import { SightingDetail } from './sighting-detail';
import { KIND_LABELS, STANDING_LABELS, StandingBadge, type Standing } from './standing-badge';

const STANDINGS: readonly Standing[] = ['altered', 'copy', 'foreign', 'ours'];

/** Everything that stands in the pages, each thing once, what needs somebody first. */
export function SightingsView() {
  const site = useSiteKey();
  const [address, setAddress] = useSearchParams();
  const standing = STANDINGS.find((one) => one === address.get('standing'));
  const open = Number(address.get('open') ?? 0);
  const [searched, setSearched] = useState('');
  const [own, setOwn] = useState(false);
  const [ignored, setIgnored] = useState(false);
  const q = useSettled(searched.trim());
  const sightings = useInfiniteQuery({
    ...sightingsQuery(site, {
      ...(standing ? { standing } : {}),
      q,
      own: own ? 'show' : 'hide',
      ignored: ignored ? 'show' : 'hide',
    }),
    placeholderData: keepPreviousData,
  });
  const isFiltered = standing !== undefined || q !== '';
  const counts = sightings.data?.pages[0]?.counts;
  const shown = sightings.data?.pages.flatMap(({ items }) => items) ?? [];
  const set = (name: string, value: string | undefined): void =>
    setAddress(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === undefined) next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return (
    <section className="space-y-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <SearchField
          label={SURVEY.search}
          placeholder={SURVEY.searchPlaceholder}
          value={searched}
          onChange={setSearched}
        />
        <div role="group" aria-label={SURVEY.whichSightings} className="flex flex-wrap gap-1.5">
          <Chip isOn={standing === undefined} onClick={() => set('standing', undefined)}>
            {SURVEY.all}
          </Chip>
          {STANDINGS.map((one) => (
            <Chip
              key={one}
              isOn={one === standing}
              onClick={() => set('standing', one)}
              count={counts?.[one] ?? 0}
            >
              {STANDING_LABELS[one]}
            </Chip>
          ))}
        </div>
        <div className="flex gap-3 text-[13px] text-muted">
          <Tick isOn={own} onChange={() => setOwn((is) => !is)}>
            {SURVEY.showOwn}
          </Tick>
          <Tick isOn={ignored} onChange={() => setIgnored((is) => !is)}>
            {SURVEY.showIgnored}
          </Tick>
        </div>
      </div>
      {sightings.isPending && <Loading />}
      {sightings.isError && <Failure error={sightings.error} onRetry={() => void sightings.refetch()} />}
      {sightings.data && shown.length === 0 && (
        <p className="rounded-xl border border-line bg-surface p-4 text-sm text-muted">
          {isFiltered ? SURVEY.nothingFits : SURVEY.nothingThere}
        </p>
      )}
      {shown.length > 0 && (
        <ul className="divide-y divide-line rounded-xl border border-line bg-surface">
          {shown.map((one) => (
            <SightingRow
              key={one.id}
              site={site}
              sighting={one}
              isOpen={one.id === open}
              onToggle={() => set('open', one.id === open ? undefined : String(one.id))}
            />
          ))}
        </ul>
      )}
      <MoreButton list={sightings}>{SURVEY.more}</MoreButton>
    </section>
  );
}

function Tick({ isOn, onChange, children }: { isOn: boolean; onChange: () => void; children: string }) {
  return (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" checked={isOn} onChange={onChange} className="size-3.5 accent-(--primary)" />
      {children}
    </label>
  );
}

interface SightingRowProps {
  readonly site: string;
  readonly sighting: Sighting;
  readonly isOpen: boolean;
  readonly onToggle: () => void;
}

function SightingRow({ site, sighting, isOpen, onToggle }: SightingRowProps) {
  return (
    <li className={cn(sighting.ignored && 'opacity-70')}>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={onToggle}
        className="grid w-full grid-cols-[1rem_minmax(0,1fr)_auto] items-start gap-x-3 px-4 py-3 text-left hover:bg-paper"
      >
        <ChevronRight
          className={cn('mt-1 size-4 text-muted transition-transform', isOpen && 'rotate-90')}
          aria-hidden
        />
        <span className="min-w-0">
          <span className="flex flex-wrap items-center gap-x-2">
            <span className="font-medium [overflow-wrap:anywhere]">{sighting.name}</span>
            <span className="text-[13px] text-muted">{KIND_LABELS[sighting.kind]}</span>
          </span>
          <span className="block text-sm text-muted">{sighting.words}</span>
        </span>
        <span className="flex flex-col items-end gap-1">
          <StandingBadge standing={sighting.standing} />
          <span className="text-[13px] whitespace-nowrap text-muted tabular-nums">
            {say(SURVEY.pages, { count: sighting.pages })}
          </span>
        </span>
      </button>
      {isOpen && <SightingDetail site={site} id={sighting.id} />}
    </li>
  );
}
