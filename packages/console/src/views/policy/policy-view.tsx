import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { hasFailed } from '../../api/failed';
import { policyQuery } from '../../api/policy';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { POLICY } from '../../texts/policy';
import { SelectField } from '../../ui/select-field';
import { Failure, Loading } from '../../ui/states';
import { WayBack } from '../../ui/way-back';
import { KindsSection } from './kinds-section';
import { ModeSection } from './mode-section';
import { NeedsSection } from './needs-section';
import { OwnSection } from './own-section';
import { PresentSection } from './present-section';
import { ReportsSection } from './reports-section';

/** What browsers are told may run on a host's pages. */
export function PolicyView() {
  const site = useSiteKey();
  const hosts = useQuery(siteQuery(site)).data?.data.hosts;
  const [chosen, setChosen] = useState<string>();
  const host = chosen ?? hosts?.find(({ environment }) => environment === 'live')?.host ?? hosts?.[0]?.host;
  return (
    <div className="max-w-5xl space-y-5">
      <div>
        <WayBack to={`/sites/${site}/delivery`}>{POLICY.back}</WayBack>
        <h1>{POLICY.title}</h1>
        <p className="max-w-3xl text-sm text-muted">{POLICY.intro}</p>
      </div>
      {hosts?.length === 0 && <p className="text-sm">{POLICY.noHosts}</p>}
      {hosts && hosts.length > 1 && host !== undefined && (
        <SelectField
          label={POLICY.host}
          className="max-w-sm"
          value={host}
          options={hosts.map((one) => [one.host, one.host] as const)}
          onChange={setChosen}
        />
      )}
      {host !== undefined && <PolicyOfHost key={host} site={site} host={host} />}
    </div>
  );
}

function PolicyOfHost({ site, host }: { site: string; host: string }) {
  const policy = useQuery(policyQuery(site, host));
  if (policy.isPending) return <Loading lines={6} label={POLICY.loading} />;
  if (hasFailed(policy)) return <Failure error={policy.error} onRetry={() => void policy.refetch()} />;
  const view = policy.data;
  return (
    <>
      <ModeSection site={site} view={view} />
      <ReportsSection site={site} view={view} />
      <PresentSection view={view} />
      <NeedsSection view={view} />
      <OwnSection site={site} view={view} />
      <KindsSection view={view} />
    </>
  );
}
