import type { HostResource } from '@pragmatica/contract';
import { DELIVERIES } from '@pragmatica/core';
import { Trash2 } from 'lucide-react';
import type { FieldErrors } from '../../api/field-errors';
import { say } from '../../texts/say';
import { SETTINGS } from '../../texts/settings';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SelectField } from '../../ui/select-field';

interface HostFieldsProps {
  /** Its place among the site's hosts. */
  readonly index: number;
  readonly host: HostResource;
  readonly onChange: (change: Partial<HostResource>) => void;
  readonly onRemove: () => void;
  readonly errorAt: FieldErrors['at'];
}

/** One host: what visitors type, where its pages come from, and how they get their code. */
export function HostFields({ index, host, onChange, onRemove, errorAt }: HostFieldsProps) {
  return (
    <fieldset className="grid gap-4 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 sm:p-5">
      <legend className="float-left mb-1 flex w-full items-center justify-between text-base font-semibold sm:col-span-2">
        {say(SETTINGS.hostIndex, { index: index + 1 })}
        <Button look="quiet" size="small" onClick={onRemove}>
          <Trash2 className="size-3.5" aria-hidden /> {SETTINGS.takeOut}
        </Button>
      </legend>
      <Field
        label={SETTINGS.hostVisitorsType}
        required
        placeholder={SETTINGS.wwwExampleCom}
        value={host.host}
        onChange={(event) => onChange({ host: event.target.value })}
        error={errorAt(`/hosts/${index}/host`)}
      />
      <SelectField
        label={SETTINGS.environment}
        value={host.environment}
        options={[
          ['live', SETTINGS.liveAllVisitors],
          ['staging', SETTINGS.stagingTryingOut],
        ]}
        onChange={(environment) => onChange({ environment: environment as HostResource['environment'] })}
      />
      <SelectField
        label={SETTINGS.wayOfHost}
        help="without-the-gateway#all-of-them-side-by-side"
        value={host.delivery}
        options={DELIVERIES.map(({ key, name }) => [key, name])}
        onChange={(delivery) => onChange({ delivery: delivery as HostResource['delivery'] })}
        hint={SETTINGS.wayOfHostHint}
      />
      <Field
        label={SETTINGS.serverHoldsPages}
        required={host.delivery === 'gateway'}
        hint={host.delivery === 'gateway' ? undefined : SETTINGS.serverNotNeeded}
        placeholder={SETTINGS.httpOriginExample}
        value={host.origin}
        onChange={(event) => onChange({ origin: event.target.value })}
        error={errorAt(`/hosts/${index}/origin`)}
      />
      <Field
        label={SETTINGS.addressVisitorsSee}
        placeholder={`http://${host.host || 'www.example.com'}`}
        hint={say(SETTINGS.emptyMeans, { host: host.host || SETTINGS.host })}
        value={host.address ?? ''}
        onChange={(event) => onChange({ address: event.target.value === '' ? null : event.target.value })}
        error={errorAt(`/hosts/${index}/address`)}
      />
      <SelectField
        label={SETTINGS.howServerSends}
        value={host.transfer}
        options={[
          ['auto', SETTINGS.automatic],
          ['plain', SETTINGS.uncompressedServerClose],
          ['compressed', SETTINGS.compressedServerFar],
        ]}
        onChange={(transfer) => onChange({ transfer: transfer as HostResource['transfer'] })}
        hint={SETTINGS.automaticRightNearly}
      />
    </fieldset>
  );
}
