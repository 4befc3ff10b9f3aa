import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { Link } from 'react-router';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { DELIVERY } from '../../texts/delivery';
import { START } from '../../texts/start';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Folded } from '../../ui/folded';
import { WaysTable } from '../delivery/compare-ways';
import { WayFinder } from '../delivery/way-finder';
import { FirstLook } from './first-look';
import { NextStep } from './next-step';
import { Step } from './step';
import { StepCard } from './step-card';

/** The first minutes of a site: what it looks like, which way suits it, and what to do next. */
export function StartView() {
  const key = useSiteKey();
  const site = useQuery(siteQuery(key)).data?.data;
  const hasSnippets = site !== undefined && site.snippets.on + site.snippets.off > 0;
  const isPublished = site !== undefined && site.environments.live !== null;
  return (
    <div className="max-w-4xl space-y-5">
      <div>
        <h1>{say(START.title, { name: site?.name ?? '…' })}</h1>
        <p className="text-sm text-muted">{site?.hosts[0]?.address ?? START.intro}</p>
      </div>
      <FirstLook site={key} />
      <ol className="space-y-4">
        <Step number={1}>
          <WayFinder site={key} />
        </Step>
        {site && (
          <Step number={2}>
            <NextStep site={site} />
          </Step>
        )}
        <Step number={3} isDone={hasSnippets}>
          <StepCard
            title={START.addFirst}
            text={START.addFirstText}
            action={
              <Button asChild look={hasSnippets ? undefined : 'primary'}>
                <Link to={`/sites/${key}/snippets/new`}>
                  <Plus className="size-4" aria-hidden /> {hasSnippets ? START.addAnother : START.add}
                </Link>
              </Button>
            }
          />
        </Step>
        <Step number={4} isDone={isPublished}>
          <StepCard
            title={START.publish}
            text={START.publishText}
            action={
              <Button asChild look={hasSnippets && !isPublished ? 'primary' : undefined}>
                <Link to={`/sites/${key}/strip`}>{START.toDraft}</Link>
              </Button>
            }
          />
        </Step>
      </ol>
      <p className="flex flex-wrap gap-x-5 gap-y-2 text-sm sm:pl-11">
        <Link to={`/sites/${key}/survey`} className="text-primary hover:underline">
          {START.wholeSurvey}
        </Link>
        <Link to={`/sites/${key}/settings/hosts`} className="text-primary hover:underline">
          {START.settings}
        </Link>
      </p>
      <Folded id="ways" title={DELIVERY.compareTitle} summary={START.compareText}>
        <WaysTable />
      </Folded>
    </div>
  );
}
