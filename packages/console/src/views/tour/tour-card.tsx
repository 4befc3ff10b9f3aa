import { useEffect, useId, useRef } from 'react';
import { useNavigate } from 'react-router';
import { TOUR } from '../../texts/guided-tour';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { TOUR_STEPS } from './steps';
import { goToStep, leaveTour, useTourPlace, type TourPlace } from './tour-state';

/** The step of the tour that somebody is at; nothing for whoever does not take it. */
export function Tour() {
  const place = useTourPlace();
  const step = place && TOUR_STEPS[place.step];
  return place && step ? <TourCard key={place.step} place={place} /> : null;
}

/** It stands beside the page and is in nobody's way: whatever is below it can be used meanwhile. */
function TourCard({ place }: { place: TourPlace }) {
  const id = useId();
  const navigate = useNavigate();
  const heading = useRef<HTMLHeadingElement>(null);
  const { at, title, text, path } = TOUR_STEPS[place.step]!;
  const last = TOUR_STEPS.length - 1;
  const target = path(place.site);
  useEffect(() => {
    void navigate(target);
    heading.current?.focus();
  }, [navigate, target]);
  usePointedAt(at);
  const go = (step: number): void => goToStep({ ...place, step });
  return (
    <section
      role="dialog"
      aria-labelledby={id}
      aria-describedby={`${id}-text`}
      onKeyDown={(event) => event.key === 'Escape' && leaveTour()}
      className="enter fixed inset-x-3 bottom-3 z-30 space-y-3 rounded-xl border-2 border-primary bg-raised p-4 shadow-card sm:left-auto sm:w-96"
    >
      <p className="text-[13px] text-muted">{say(TOUR.step, { step: place.step + 1, steps: last + 1 })}</p>
      <h2 id={id} ref={heading} tabIndex={-1} className="outline-none">
        {title}
      </h2>
      <p id={`${id}-text`} className="text-sm">
        {text}
      </p>
      <div className="flex flex-wrap items-center gap-2">
        {place.step < last && (
          <Button size="small" look="quiet" onClick={leaveTour}>
            {TOUR.leave}
          </Button>
        )}
        <span className="ml-auto flex gap-2">
          {place.step > 0 && (
            <Button size="small" onClick={() => go(place.step - 1)}>
              {TOUR.back}
            </Button>
          )}
          <Button
            size="small"
            look="primary"
            onClick={() => (place.step < last ? go(place.step + 1) : leaveTour())}
          >
            {place.step < last ? TOUR.next : TOUR.finish}
          </Button>
        </span>
      </div>
    </section>
  );
}

/** Draws a line around what a step is about, as soon as it is there. */
function usePointedAt(name: string): void {
  useEffect(() => {
    const point = (): void => {
      for (const element of document.querySelectorAll('[data-tour]'))
        element.toggleAttribute('data-tour-shown', element.getAttribute('data-tour') === name);
    };
    point();
    const watch = new MutationObserver(point);
    watch.observe(document.body, { childList: true, subtree: true });
    return () => {
      watch.disconnect();
      for (const element of document.querySelectorAll('[data-tour-shown]'))
        element.removeAttribute('data-tour-shown');
    };
  }, [name]);
}
