import { useQuery } from '@tanstack/react-query';
import { siteQuery } from '../../api/queries';
import { Link } from 'react-router';
import { DELIVERY } from '../../texts/delivery';
import { POLICY } from '../../texts/policy';
import { useSiteKey } from '../../layout/site-layout';
import { FragmentsSection } from './fragments-section';
import { HostsSection } from './hosts-section';
import { CompareWays } from './compare-ways';
import { LineSection } from './line-section';
import { WayFinder } from './way-finder';
import { PasteSection } from './paste-section';

/** The ways in which pages get their code without the gateway, and how the ways compare. */
export function DeliveryView() {
  const site = useSiteKey();
  const hosts = useQuery(siteQuery(site)).data?.data.hosts;
  return (
    <div className="max-w-5xl space-y-5">
      <div>
        <h1>{DELIVERY.title}</h1>
        <p className="text-sm text-muted">{DELIVERY.intro}</p>
      </div>
      <HostsSection site={site} />
      <WayFinder site={site} />
      <LineSection site={site} />
      <PasteSection site={site} />
      {hosts?.some(({ delivery }) => delivery === 'fragments') && <FragmentsSection site={site} />}
      <section
        aria-label={POLICY.linkTitle}
        className="flex flex-wrap items-center gap-3 rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
      >
        <div className="min-w-60 flex-1">
          <h2>{POLICY.linkTitle}</h2>
          <p className="text-muted">{POLICY.linkText}</p>
        </div>
        <Link className="font-medium text-primary hover:underline" to="policy">
          {POLICY.open}
        </Link>
      </section>
      <CompareWays />
    </div>
  );
}
