import { useQuery } from '@tanstack/react-query';
import { ArrowRight } from 'lucide-react';
import { Link } from 'react-router';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { START } from '../../texts/start';
import { say } from '../../texts/say';
import { CompareWays } from '../delivery/compare-ways';
import { WayFinder } from '../delivery/way-finder';
import { FirstLook } from './first-look';
import { NextStep } from './next-step';

/** The first minutes of a site: what it looks like, which way suits it, and what to do next. */
export function StartView() {
  const key = useSiteKey();
  const site = useQuery(siteQuery(key)).data?.data;
  return (
    <div className="max-w-4xl space-y-5">
      <div>
        <h1>{say(START.title, { name: site?.name ?? '…' })}</h1>
        <p className="text-sm text-muted">{site?.hosts[0]?.address ?? START.intro}</p>
      </div>
      <FirstLook site={key} />
      <WayFinder site={key} />
      {site && <NextStep site={site} />}
      <p className="flex flex-wrap gap-x-5 gap-y-2 text-sm">
        <Link to={`/sites/${key}/snippets/new`} className="font-medium text-primary hover:underline">
          {START.addFirst} <ArrowRight className="inline size-4" aria-hidden />
        </Link>
        <Link to={`/sites/${key}/survey`} className="text-muted hover:underline">
          {START.wholeSurvey}
        </Link>
        <Link to={`/sites/${key}/settings/hosts`} className="text-muted hover:underline">
          {START.settings}
        </Link>
      </p>
      <CompareWays />
    </div>
  );
}
