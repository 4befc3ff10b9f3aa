import { Compass } from 'lucide-react';
import { TOUR } from '../../texts/guided-tour';
import { Button } from '../../ui/button';
import { DEMO_SITE, goToStep, leaveTour, useIsTourNew, useTourPlace } from './tour-state';

/** Offers the tour to whoever sees the demo for the first time. @param sites - keys of those that are shown */
export function TourOffer({ sites }: { sites: readonly string[] }) {
  const isNew = useIsTourNew();
  const isTaken = useTourPlace() !== undefined;
  if (!isNew || isTaken || !sites.includes(DEMO_SITE)) return null;
  return (
    <section
      aria-label={TOUR.offerTitle}
      className="mb-5 flex flex-wrap items-center gap-3 rounded-xl border border-line bg-primary-soft p-4 text-sm"
    >
      <Compass className="size-5 shrink-0 text-primary" aria-hidden />
      <div className="min-w-56 flex-1">
        <h2 className="text-base">{TOUR.offerTitle}</h2>
        <p>{TOUR.offerText}</p>
      </div>
      <div className="flex flex-wrap gap-2">
        <Button look="primary" onClick={() => goToStep({ site: DEMO_SITE, step: 0 })}>
          {TOUR.start}
        </Button>
        <Button look="quiet" onClick={leaveTour}>
          {TOUR.decline}
        </Button>
      </div>
    </section>
  );
}
