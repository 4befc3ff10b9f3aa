import { otherWays, questionWords, recommendWay, type OwnerAnswers } from '@pragmatica/core';
import { Compass } from 'lucide-react';
import { useState } from 'react';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';

/** Asks what its owner can do, and says which way suits the site. */
export function WayFinder() {
  const [answers, setAnswers] = useState<OwnerAnswers>({});
  const { ask, way, because } = recommendWay(answers);
  const others = otherWays(answers).map(({ name }) => name);
  return (
    <section
      aria-label={DELIVERY.suitsTitle}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-line bg-surface p-4 sm:px-5"
    >
      <Compass className="size-5 shrink-0 text-muted" aria-hidden />
      <div className="min-w-60 flex-1 text-sm" aria-live="polite">
        <h2>{DELIVERY.suitsTitle}</h2>
        {ask !== undefined && <p>{questionWords(ask)}</p>}
        {ask === undefined && (
          <p>
            <span className="font-medium">
              {way ? say(DELIVERY.suits, { name: way.name }) : DELIVERY.suitsNone}
            </span>{' '}
            {because}
          </p>
        )}
        {ask === undefined && others.length > 0 && (
          <p className="text-muted">{say(DELIVERY.others, { names: others.join(', ') })}</p>
        )}
      </div>
      {ask === undefined ? (
        <Button size="small" look="quiet" onClick={() => setAnswers({})}>
          {DELIVERY.again}
        </Button>
      ) : (
        <div className="flex gap-2">
          <Button size="small" onClick={() => setAnswers({ ...answers, [ask]: true })}>
            {DELIVERY.yes}
          </Button>
          <Button size="small" onClick={() => setAnswers({ ...answers, [ask]: false })}>
            {DELIVERY.no}
          </Button>
        </div>
      )}
    </section>
  );
}
