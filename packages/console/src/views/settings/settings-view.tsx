import type { FieldResource, HostResource, SiteResource } from '@pragmatica/contract';
import { DELIVERIES, type ConsentRules, type PageGroup } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useEditSite } from '../../api/mutations';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { Field, FormError, inputStyle } from '../../ui/field';
import { Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { AccessSection } from './access-section';
import { ConsentEditor } from './consent-editor';
import { FileSection } from './file-section';
import { FieldsEditor } from './fields-editor';
import { PageGroupsEditor } from './page-groups-editor';
import { SETTINGS } from '../../texts/settings';
import { say } from '../../texts/say';

export function SettingsView() {
  const key = useSiteKey();
  const site = useQuery({ ...siteQuery(key), refetchOnWindowFocus: false });
  return (
    <div className="max-w-4xl space-y-4">
      <div>
        <h1>{SETTINGS.settings}</h1>
        <p className="text-sm text-muted">{SETTINGS.nameHostsWork}</p>
      </div>
      {site.data ? (
        <>
          <SettingsForm key={site.data.etag} site={site.data.data} etag={site.data.etag} />
          <AccessSection site={key} hosts={site.data.data.hosts.map(({ host }) => host)} />
          <FileSection site={key} />
        </>
      ) : (
        <Loading lines={3} label={SETTINGS.loadingSettings} />
      )}
    </div>
  );
}

const NEW_HOST: HostResource = {
  ...{ host: '', environment: 'live', delivery: 'gateway', origin: '' },
  ...{ address: null, transfer: 'auto' },
};

function SettingsForm({ site, etag }: { site: SiteResource; etag: string }) {
  const edit = useEditSite(site.key);
  const toast = useToast();
  const [name, setName] = useState(site.name);
  const [timeZone, setTimeZone] = useState(site.timeZone);
  const [hosts, setHosts] = useState<readonly HostResource[]>(site.hosts);
  const [groups, setGroups] = useState<readonly PageGroup[]>(site.pageGroups);
  const [consent, setConsent] = useState<ConsentRules | null>(site.consent);
  const [fields, setFields] = useState<readonly FieldResource[]>(site.fields);
  const setHost = (index: number, change: Partial<HostResource>): void =>
    setHosts((current) => current.map((host, i) => (i === index ? { ...host, ...change } : host)));
  const errors = fieldErrorsOf(edit.error);
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        edit.run(
          {
            etag,
            body: {
              name,
              timeZone,
              hosts: [...hosts],
              pageGroups: groups.map((group) => ({ ...group, patterns: [...group.patterns] })),
              consent: consent && { ...consent, categories: [...consent.categories] },
              fields: [...fields],
            },
          },
          () => toast({ tone: 'done', title: SETTINGS.settingsSaved }),
        );
      }}
    >
      <section className="grid gap-4 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 sm:p-5">
        <Field
          label={SETTINGS.name}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
          error={errors.at('/name')}
        />
        <Field
          label={SETTINGS.timeZone}
          required
          placeholder={SETTINGS.europeDublin}
          value={timeZone}
          onChange={(event) => setTimeZone(event.target.value)}
          error={errors.at('/timeZone')}
        />
      </section>
      {hosts.map((host, index) => (
        <fieldset
          key={index}
          className="grid gap-4 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 sm:p-5"
        >
          <legend className="float-left mb-1 flex w-full items-center justify-between text-base font-semibold sm:col-span-2">
            {say(SETTINGS.hostIndex, { index: index + 1 })}
            <Button look="quiet" size="small" onClick={() => setHosts(hosts.filter((_, i) => i !== index))}>
              <Trash2 className="size-3.5" aria-hidden /> {SETTINGS.takeOut}
            </Button>
          </legend>
          <Field
            label={SETTINGS.hostVisitorsType}
            required
            placeholder={SETTINGS.wwwExampleCom}
            value={host.host}
            onChange={(event) => setHost(index, { host: event.target.value })}
            error={errors.at(`/hosts/${index}/host`)}
          />
          <label className="space-y-1.5 text-sm font-medium">
            <span className="block">{SETTINGS.environment}</span>
            <select
              className={inputStyle}
              value={host.environment}
              onChange={(event) =>
                setHost(index, { environment: event.target.value as HostResource['environment'] })
              }
            >
              <option value="live">{SETTINGS.liveAllVisitors}</option>
              <option value="staging">{SETTINGS.stagingTryingOut}</option>
            </select>
          </label>
          <label className="space-y-1.5 text-sm font-medium">
            <span className="block">{SETTINGS.wayOfHost}</span>
            <select
              className={inputStyle}
              value={host.delivery}
              onChange={(event) =>
                setHost(index, { delivery: event.target.value as HostResource['delivery'] })
              }
            >
              {DELIVERIES.map(({ key, name }) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
            <span className="block text-[13px] font-normal text-muted">{SETTINGS.wayOfHostHint}</span>
          </label>
          <Field
            label={SETTINGS.serverHoldsPages}
            required={host.delivery === 'gateway'}
            hint={host.delivery === 'gateway' ? undefined : SETTINGS.serverNotNeeded}
            placeholder={SETTINGS.httpOriginExample}
            value={host.origin}
            onChange={(event) => setHost(index, { origin: event.target.value })}
            error={errors.at(`/hosts/${index}/origin`)}
          />
          <Field
            label={SETTINGS.addressVisitorsSee}
            placeholder={`http://${host.host || 'www.example.com'}`}
            hint={say(SETTINGS.emptyMeans, { host: host.host || SETTINGS.host })}
            value={host.address ?? ''}
            onChange={(event) =>
              setHost(index, { address: event.target.value === '' ? null : event.target.value })
            }
            error={errors.at(`/hosts/${index}/address`)}
          />
          <label className="space-y-1.5 text-sm font-medium">
            <span className="block">{SETTINGS.howServerSends}</span>
            <select
              className={inputStyle}
              value={host.transfer}
              onChange={(event) =>
                setHost(index, { transfer: event.target.value as HostResource['transfer'] })
              }
            >
              <option value="auto">{SETTINGS.automatic}</option>
              <option value="plain">{SETTINGS.uncompressedServerClose}</option>
              <option value="compressed">{SETTINGS.compressedServerFar}</option>
            </select>
            <span className="block text-[13px] font-normal text-muted">{SETTINGS.automaticRightNearly}</span>
          </label>
        </fieldset>
      ))}
      <Button onClick={() => setHosts([...hosts, NEW_HOST])}>
        <Plus className="size-4" aria-hidden /> {SETTINGS.addHost}
      </Button>
      <PageGroupsEditor site={site.key} groups={groups} onChange={setGroups} errorAt={errors.at} />
      <FieldsEditor fields={fields} onChange={setFields} errorAt={errors.at} />
      <ConsentEditor consent={consent} onChange={setConsent} errorAt={errors.at} />
      <FormError error={errors.isEmpty ? edit.error : undefined} />
      <div className="border-t border-line pt-4">
        <Button type="submit" look="primary" isBusy={edit.isPending}>
          {SETTINGS.saveSettings}
        </Button>
      </div>
    </form>
  );
}
