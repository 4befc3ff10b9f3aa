import type { HostResource } from '@pragmatica/contract';
import { Plus } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { SETTINGS } from '../../texts/settings';
import { Button } from '../../ui/button';
import { AccessSection } from './access-section';
import { HostFields } from './host-fields';
import { SettingsPart } from './settings-part';

const NEW_HOST: HostResource = {
  ...{ host: '', environment: 'live', delivery: 'gateway', origin: '' },
  ...{ address: null, transfer: 'auto' },
};

/** The hosts of the site, how each gets its code, and the passwords of those that are not public. */
export function HostsView() {
  const key = useSiteKey();
  const known = useQuery(siteQuery(key)).data?.data.hosts ?? [];
  return (
    <div className="max-w-4xl space-y-6">
      <SettingsPart
        read={({ hosts }) => ({ hosts })}
        toPatch={({ hosts }) => ({ hosts })}
        isAtOnce
        needs="own"
      >
        {({ value: { hosts }, set, errorAt }) => (
          <>
            {hosts.map((host, index) => (
              <HostFields
                key={index}
                index={index}
                host={host}
                onChange={(change) =>
                  set({ hosts: hosts.map((old, i) => (i === index ? { ...old, ...change } : old)) })
                }
                onRemove={() => set({ hosts: hosts.filter((_, i) => i !== index) })}
                errorAt={errorAt}
              />
            ))}
            <Button onClick={() => set({ hosts: [...hosts, NEW_HOST] })}>
              <Plus className="size-4" aria-hidden /> {SETTINGS.addHost}
            </Button>
          </>
        )}
      </SettingsPart>
      <AccessSection site={key} hosts={known.map(({ host }) => host)} />
    </div>
  );
}
