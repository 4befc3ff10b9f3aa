import type { SiteResource } from '@pragmatica/contract';
import { Link } from 'react-router';
import { START } from '../../texts/start';
import { say } from '../../texts/say';
import { FragmentsSection } from '../delivery/fragments-section';
import { LineSection } from '../delivery/line-section';
import { PasteSection } from '../delivery/paste-section';

/** What its owner does now, for the way in which the site gets its code. */
export function NextStep({ site: { key, hosts } }: { site: SiteResource }) {
  const host = hosts.find(({ environment }) => environment === 'live');
  if (!host) return null;
  if (host.delivery === 'line' || host.delivery === 'async-line') return <LineSection site={key} />;
  if (host.delivery === 'paste') return <PasteSection site={key} />;
  if (host.delivery === 'fragments') return <FragmentsSection site={key} />;
  return (
    <section aria-label={START.next} className="rounded-xl border border-line bg-surface p-4 text-sm sm:p-5">
      <h2>{START.next}</h2>
      {host.delivery === 'middleware' ? (
        <p className="mt-1">{START.nextMiddleware}</p>
      ) : host.delivery === 'gateway' ? (
        <>
          <p className="mt-1">{say(START.nextGateway, { host: host.host })}</p>
          <Link
            className="mt-2 inline-block text-primary hover:underline"
            to={`/sites/${key}/settings/hosts`}
          >
            {START.settings}
          </Link>
        </>
      ) : (
        <>
          <p className="mt-1">{START.nextFolder}</p>
          <code className="mt-2 block overflow-x-auto rounded-md bg-sunken p-2 text-xs">
            {say(START.insertCommand, { key })}
          </code>
        </>
      )}
    </section>
  );
}
