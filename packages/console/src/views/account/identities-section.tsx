import { useQuery } from '@tanstack/react-query';
import { KeyRound } from 'lucide-react';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { identitiesQuery, signInWaysQuery } from '../../api/identities';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { ItemRow } from '../../ui/item-row';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { ProviderButton } from '../sign-in/provider-button';

/** Whom at the identity provider somebody signs in as; nothing where there is no provider and never was. */
export function IdentitiesSection() {
  const identities = useQuery(identitiesQuery);
  const provider = useQuery(signInWaysQuery).data?.identityProvider?.name;
  const remove = useChangeOf('account', (identity: number) =>
    api.call('removeIdentity', { params: { identity } }),
  );
  if (provider === undefined && (identities.data ?? []).length === 0) return null;
  return (
    <Section
      title={say(ACCOUNT.identitiesTitle, { provider: provider ?? ACCOUNT.noProvider })}
      text={provider === undefined ? ACCOUNT.providerGone : say(ACCOUNT.identitiesText, { provider })}
    >
      {identities.isPending && <Loading lines={1} />}
      {identities.isError && <Failure error={identities.error} onRetry={() => void identities.refetch()} />}
      <ul className="divide-y divide-line">
        {identities.data?.map(({ id, name, createdAt, lastUsedAt }) => (
          <ItemRow
            key={id}
            icon={KeyRound}
            title={<span className="font-medium">{name}</span>}
            action={
              <Button
                size="small"
                look="quiet"
                aria-label={say(ACCOUNT.disconnectOf, { name })}
                isBusy={remove.isPending && remove.variables === id}
                onClick={() => remove.mutate(id)}
              >
                {ACCOUNT.disconnect}
              </Button>
            }
          >
            {ACCOUNT.connectedAt} <Time at={createdAt} /> ·{' '}
            {lastUsedAt === null ? (
              ACCOUNT.notUsed
            ) : (
              <>
                {ACCOUNT.used} <Time at={lastUsedAt} />
              </>
            )}
          </ItemRow>
        ))}
      </ul>
      {provider !== undefined && (
        <ProviderButton errand={{ to: 'connect' }}>{say(ACCOUNT.connect, { provider })}</ProviderButton>
      )}
      <FormError error={remove.error} />
    </Section>
  );
}
