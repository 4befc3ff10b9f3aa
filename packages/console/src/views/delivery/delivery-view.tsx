import { useQuery } from '@tanstack/react-query';
import { siteQuery } from '../../api/queries';
import { DELIVERY } from '../../texts/delivery';
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
      <CompareWays />
    </div>
  );
}
