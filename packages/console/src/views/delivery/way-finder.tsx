import type { HostResource } from '@pragmatica/contract';
import { otherWays, questionWords, recommendWay, type Delivery, type OwnerAnswers } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Compass } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useEditSite } from '../../api/mutations';
import { siteQuery } from '../../api/queries';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';

/** Delivers the live hosts of a site in a way; the gateway has to know their servers, so that is for the settings. */
function useTakeWay(site: string) {
  const shown = useQuery(siteQuery(site)).data;
  const edit = useEditSite(site);
  const toast = useToast();
  const navigate = useNavigate();
  const hosts = shown?.data.hosts ?? [];
  const isMeant = ({ environment }: HostResource): boolean => environment === 'live';
  // Which of several is meant, their owner says host by host.
  const isPlain = hosts.filter(isMeant).length === 1;
  return {
    isBusy: edit.isPending,
    isOther: ({ key }: Delivery) => isPlain && hosts.some((host) => isMeant(host) && host.delivery !== key),
    run: ({ key, name }: Delivery): void => {
      if (!shown) return;
      if (key === 'gateway') {
        void navigate(`/sites/${site}/settings/hosts`);
        return;
      }
      const changed = hosts.map((host) => (isMeant(host) ? { ...host, delivery: key } : host));
      edit.run({ etag: shown.etag, body: { hosts: changed } }, () =>
        toast({ tone: 'done', title: say(DELIVERY.taken, { name }), text: DELIVERY.hostChangedText[key] }),
      );
    },
  };
}

/** Asks what its owner can do, and says which way suits the site. */
export function WayFinder({ site }: { site: string }) {
  const take = useTakeWay(site);
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
        <div className="flex gap-2">
          {way && take.isOther(way) && (
            <Button
              size="small"
              look="primary"
              needs="own"
              isBusy={take.isBusy}
              onClick={() => take.run(way)}
            >
              {DELIVERY.takeIt}
            </Button>
          )}
          <Button size="small" look="quiet" onClick={() => setAnswers({})}>
            {DELIVERY.again}
          </Button>
        </div>
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
