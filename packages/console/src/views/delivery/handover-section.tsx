import { useQuery } from '@tanstack/react-query';
import { Link2 } from 'lucide-react';
import { useState } from 'react';
import { handoversQuery, useEndHandover, useMakeHandover } from '../../api/handover';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError, inputStyle } from '../../ui/field';
import { cn } from '../../ui/cn';
import { SecretBox } from '../../ui/secret-box';
import { Time } from '../../ui/time';

const DAYS = [3, 14, 30, 90];

/** Links for whoever has the access to the site builder, and no account here. */
export function HandoverSection({ site }: { site: string }) {
  const links = useQuery(handoversQuery(site)).data ?? [];
  const make = useMakeHandover(site);
  const end = useEndHandover(site);
  const [days, setDays] = useState(14);
  const [address, setAddress] = useState<string>();
  return (
    <div className="space-y-2 border-t border-line pt-3 text-sm">
      <h3>{DELIVERY.handoverTitle}</h3>
      <p className="text-muted">{DELIVERY.handoverText}</p>
      <div className="flex flex-wrap items-center gap-2">
        <select
          aria-label={DELIVERY.handoverDays}
          className={cn(inputStyle, 'w-auto')}
          value={days}
          onChange={(event) => setDays(Number(event.target.value))}
        >
          {DAYS.map((one) => (
            <option key={one} value={one}>
              {say(DELIVERY.worksFor, { days: one })}
            </option>
          ))}
        </select>
        <Button
          size="small"
          isBusy={make.isPending}
          onClick={() =>
            make.run(days, ({ data }) => setAddress(new URL(data.path, window.location.origin).href))
          }
        >
          <Link2 className="size-3.5" aria-hidden /> {DELIVERY.makeLink}
        </Button>
      </div>
      <FormError error={make.error ?? end.error} />
      {address !== undefined && (
        <SecretBox secret={address} next={DELIVERY.linkCopied} note={DELIVERY.shownOnce} />
      )}
      {links.length > 0 && (
        <ul className="divide-y divide-line">
          {links.map(({ id, by, until, usedAt }) => (
            <li key={id} className="flex flex-wrap items-center gap-2 py-1.5 text-[13px]">
              <span className="min-w-52 flex-1">
                {say(DELIVERY.linkBy, { id, by })} <Time at={until} />
                {usedAt !== null && (
                  <>
                    {DELIVERY.linkUsed} <Time at={usedAt} />
                  </>
                )}
              </span>
              <Button size="small" look="quiet" isBusy={end.isPending} onClick={() => end.run(id)}>
                {DELIVERY.endLink}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
