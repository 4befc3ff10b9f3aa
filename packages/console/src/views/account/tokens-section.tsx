import { useQuery } from '@tanstack/react-query';
import { KeyRound } from 'lucide-react';
import { TOKEN_ROLES, type TokenRole } from '@pragmatica/core';
import type { TokenResource } from '@pragmatica/contract';
import { useState } from 'react';
import { tokensQuery } from '../../api/account';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { DangerDialog } from '../../ui/danger-dialog';
import { ItemRow } from '../../ui/item-row';
import { SecretBox } from '../../ui/secret-box';
import { Field, FormError } from '../../ui/field';
import { SelectField } from '../../ui/select-field';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { Section } from '../../ui/section';
import { SitePicker } from '../members/site-picker';

const DAYS = [7, 30, 90, 365];

const ROLE_OPTIONS: readonly (readonly [TokenRole | '', string])[] = [
  ['', ACCOUNT.mayAll],
  ...TOKEN_ROLES.map((role) => [role, ACCOUNT.tokenRoles[role]] as const),
];

/** What a token was made for, in a line. */
function limitWords({ role, sites }: TokenResource): string {
  const may = role === null ? ACCOUNT.mayAll : ACCOUNT.tokenRoles[role];
  return sites === null ? may : say(ACCOUNT.mayAt, { may, sites });
}

/** Bearer tokens: a new one is shown once. */
export function TokensSection() {
  const tokens = useQuery(tokensQuery);
  const [name, setName] = useState('');
  const [days, setDays] = useState(90);
  const [role, setRole] = useState<TokenRole | ''>('');
  const [isForSome, setForSome] = useState(false);
  const [sites, setSites] = useState<ReadonlySet<string>>(new Set());
  const [leaving, setLeaving] = useState<{ id: number; name: string }>();
  const make = useChangeOf('account', async () => {
    const body = { name, days, role: role === '' ? null : role, sites: isForSome ? [...sites] : null };
    return (await api.call('createToken', { body })).data;
  });
  const revoke = useChangeOf('account', (token: number) => api.call('removeToken', { params: { token } }));
  const made = make.data;
  return (
    <Section title={ACCOUNT.tokensTitle} text={ACCOUNT.tokensText}>
      {tokens.isPending && <Loading lines={2} />}
      {tokens.isError && <Failure error={tokens.error} onRetry={() => void tokens.refetch()} />}
      {tokens.data?.length === 0 && <p className="text-muted">{ACCOUNT.noTokens}</p>}
      <ul className="divide-y divide-line">
        {tokens.data?.map((token) => (
          <ItemRow
            key={token.id}
            icon={KeyRound}
            title={<span className="font-medium">{token.name}</span>}
            action={
              <Button
                size="small"
                look="quiet"
                aria-label={say(ACCOUNT.revokeOf, { name: token.name })}
                onClick={() => setLeaving(token)}
              >
                {ACCOUNT.revoke}
              </Button>
            }
          >
            <p>{limitWords(token)}</p>
            <p>
              {ACCOUNT.madeAt} <Time at={token.createdAt} /> ·{' '}
              {token.lastUsedAt === null ? (
                ACCOUNT.notUsed
              ) : (
                <>
                  {ACCOUNT.used} <Time at={token.lastUsedAt} />
                </>
              )}{' '}
              ·{' '}
              {Date.parse(token.expiresAt) < Date.now() ? (
                <span className="text-signal">{ACCOUNT.expired}</span>
              ) : (
                <>
                  {ACCOUNT.until} <Time at={token.expiresAt} />
                </>
              )}
            </p>
          </ItemRow>
        ))}
      </ul>
      {made && (
        <SecretBox
          title={say(ACCOUNT.made, { name: made.name })}
          secret={made.secret}
          next={ACCOUNT.copied}
          note={ACCOUNT.madeText}
        />
      )}
      <form
        className="space-y-3 border-t border-line pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate(undefined, {
            onSuccess: () => {
              setName('');
              setSites(new Set());
            },
          });
        }}
      >
        <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_14rem]">
          <Field
            label={ACCOUNT.tokenName}
            hint={ACCOUNT.tokenNameHint}
            maxLength={120}
            required
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <SelectField
            label={ACCOUNT.tokenDays}
            value={String(days)}
            options={DAYS.map((one): [string, string] => [String(one), say(ACCOUNT.days, { days: one })])}
            onChange={(chosen) => setDays(Number(chosen))}
          />
          <SelectField
            label={ACCOUNT.tokenRole}
            value={role}
            options={ROLE_OPTIONS}
            onChange={(chosen) => setRole(chosen as typeof role)}
          />
          <SelectField
            label={ACCOUNT.tokenSites}
            value={isForSome ? 'some' : 'all'}
            options={[
              ['all', ACCOUNT.allYourSites],
              ['some', ACCOUNT.onlySome],
            ]}
            onChange={(chosen) => setForSome(chosen === 'some')}
          />
        </div>
        {isForSome && <SitePicker chosen={sites} onChange={setSites} />}
        <Button
          type="submit"
          isBusy={make.isPending}
          disabled={name.trim() === '' || (isForSome && sites.size === 0)}
        >
          {ACCOUNT.make}
        </Button>
      </form>
      <FormError error={make.error} />
      <DangerDialog
        title={say(ACCOUNT.revokeTitle, { name: leaving?.name ?? '' })}
        description={ACCOUNT.revokeText}
        isOpen={leaving !== undefined}
        onOpenChange={(isOpen) => {
          if (!isOpen) setLeaving(undefined);
        }}
        act={ACCOUNT.revoke}
        leave={ACCOUNT.cancel}
        isBusy={revoke.isPending}
        error={revoke.error}
        onAct={() => revoke.mutate(leaving!.id, { onSuccess: () => setLeaving(undefined) })}
      />
    </Section>
  );
}
