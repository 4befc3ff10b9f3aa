import type { HostSecretInput } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { KeyRound } from 'lucide-react';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useForgetAccess, useGiveAccess } from '../../api/mutations';
import { accessesQuery } from '../../api/surveys';
import { say } from '../../texts/say';
import { SETTINGS } from '../../texts/settings';
import { Button } from '../../ui/button';
import { HelpLink } from '../../ui/help-link';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { Field } from '../../ui/field';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';

/** Hosts that are not public yet, and how surveys get into them. */
export function AccessSection({ site, hosts }: { site: string; hosts: readonly string[] }) {
  const accesses = useQuery(accessesQuery(site)).data ?? [];
  const forget = useForgetAccess(site);
  const [open, setOpen] = useState<string>();
  if (hosts.length === 0) return null;
  return (
    <section className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5">
      <div>
        <h2 className="flex items-center gap-1.5">
          {SETTINGS.accessTitle} <HelpLink to="survey#which-pages" subject={SETTINGS.accessTitle} />
        </h2>
        <p className="text-sm text-muted">{SETTINGS.accessText}</p>
      </div>
      <ul className="divide-y divide-line text-sm">
        {hosts.map((host) => {
          const kept = accesses.find((one) => one.host === host);
          return (
            <li key={host} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
              <span className="min-w-52 flex-1 font-mono text-xs">{host}</span>
              {kept ? (
                <span className="text-muted">
                  {say(SETTINGS.accessKept, { by: kept.by })} <Time at={kept.at} />
                </span>
              ) : (
                <span className="text-muted">{SETTINGS.accessPublic}</span>
              )}
              <Button
                size="small"
                needs="own"
                onClick={() => setOpen(host)}
                aria-label={say(SETTINGS.accessGiveTo, {
                  give: kept ? SETTINGS.accessReplace : SETTINGS.accessGive,
                  host,
                })}
              >
                <KeyRound className="size-3.5" aria-hidden />{' '}
                {kept ? SETTINGS.accessReplace : SETTINGS.accessGive}
              </Button>
              {kept && (
                <Button
                  size="small"
                  needs="own"
                  look="quiet"
                  isBusy={forget.isPending}
                  aria-label={say(SETTINGS.accessForgetOf, { host })}
                  onClick={() => forget.run(host)}
                >
                  {SETTINGS.accessForget}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      <AccessDialog key={open ?? ''} site={site} host={open} onClose={() => setOpen(undefined)} />
    </section>
  );
}

const KINDS = [
  ['basic', SETTINGS.accessBasic, SETTINGS.accessUser],
  ['header', SETTINGS.accessHeader, SETTINGS.accessHeaderName],
  ['cookie', SETTINGS.accessCookie, SETTINGS.accessCookieName],
  ['form', SETTINGS.accessForm, SETTINGS.accessFormUser],
] as const;

function AccessDialog({
  site,
  host,
  onClose,
}: {
  site: string;
  host: string | undefined;
  onClose: () => void;
}) {
  const give = useGiveAccess(site);
  const toast = useToast();
  const [kind, setKind] = useState<HostSecretInput['kind']>('basic');
  const [name, setName] = useState('');
  const [value, setValue] = useState('');
  const [page, setPage] = useState('/');
  const errors = fieldErrorsOf(give.error);
  return (
    <FormDialog
      title={say(SETTINGS.accessDialog, { host: host ?? '' })}
      description={SETTINGS.accessDialogText}
      isOpen={host !== undefined}
      onOpenChange={(isOpen) => !isOpen && onClose()}
      onSubmit={() => {
        const secret = kind === 'form' ? { kind, name, value, page } : { kind, name, value };
        give.run({ host: host!, ...secret }, () => {
          onClose();
          toast({ tone: 'done', title: SETTINGS.accessDone });
        });
      }}
      submit={SETTINGS.accessKeep}
      isBusy={give.isPending}
      leave={SETTINGS.accessLeave}
    >
      <SelectField
        label={SETTINGS.accessHow}
        value={kind}
        options={KINDS.map(([one, label]) => [one, label] as const)}
        onChange={(one) => setKind(one as HostSecretInput['kind'])}
      />
      {kind === 'form' && (
        <Field
          label={SETTINGS.accessPage}
          required
          value={page}
          error={errors.at('/page')}
          onChange={(event) => setPage(event.target.value)}
        />
      )}
      <Field
        label={KINDS.find(([one]) => one === kind)![2]}
        required={kind !== 'form'}
        value={name}
        error={errors.at('/name')}
        onChange={(event) => setName(event.target.value)}
      />
      <Field
        label={kind === 'basic' || kind === 'form' ? SETTINGS.accessPassword : SETTINGS.accessValue}
        type="password"
        autoComplete="new-password"
        required
        value={value}
        error={errors.at('/value')}
        onChange={(event) => setValue(event.target.value)}
      />
    </FormDialog>
  );
}
