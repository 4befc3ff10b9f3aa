import { DELIVERIES, type DeliveryKey } from '@pragmatica/core';
import type { SiteResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useEditSite } from '../../api/mutations';
import { siteQuery } from '../../api/queries';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { inputStyle } from '../../ui/field';
import { cn } from '../../ui/cn';
import { Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';

/** By which way each host gets its code; changed at once, without touching a snippet. */
export function HostsSection({ site }: { site: string }) {
  const shown = useQuery(siteQuery(site));
  return (
    <section aria-label={DELIVERY.hostsTitle} className="rounded-xl border border-line bg-surface p-4 sm:p-5">
      <h2>{DELIVERY.hostsTitle}</h2>
      <p className="text-sm text-muted">{DELIVERY.hostsText}</p>
      {shown.data ? (
        <HostList site={shown.data.data} etag={shown.data.etag} />
      ) : (
        <Loading lines={2} label={DELIVERY.loadingHosts} />
      )}
    </section>
  );
}

function HostList({ site, etag }: { site: SiteResource; etag: string }) {
  const edit = useEditSite(site.key);
  const toast = useToast();
  const choose = (name: string, delivery: DeliveryKey): void =>
    edit.run(
      {
        etag,
        body: { hosts: site.hosts.map((one) => (one.host === name ? { ...one, delivery } : one)) },
      },
      () =>
        toast({
          tone: 'done',
          title: say(DELIVERY.hostChanged, { host: name }),
          text: DELIVERY.hostChangedText[delivery],
        }),
    );
  if (site.hosts.length === 0)
    return (
      <p className="mt-3 text-sm">
        {DELIVERY.noHosts}{' '}
        <Link className="underline" to={`/sites/${site.key}/settings/hosts`}>
          {DELIVERY.addHost}
        </Link>
      </p>
    );
  return (
    <ul className="mt-3 divide-y divide-line border-t border-line">
      {site.hosts.map(({ host, environment, address, delivery }) => (
        <li key={host} className="flex flex-wrap items-center gap-x-4 gap-y-2 py-2.5">
          <span className="min-w-52 flex-1 text-sm">
            <span className="block font-medium break-all">{host}</span>
            <span className="text-muted">
              {environment} · {address ?? `http://${host}`}
            </span>
          </span>
          <select
            aria-label={say(DELIVERY.wayOf, { host })}
            className={cn(inputStyle, 'w-full sm:w-64')}
            value={delivery}
            disabled={edit.isPending}
            onChange={(event) => choose(host, event.target.value as DeliveryKey)}
          >
            {DELIVERIES.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </li>
      ))}
    </ul>
  );
}
