import { useQuery } from '@tanstack/react-query';
import { Fingerprint } from 'lucide-react';
import { useState } from 'react';
import { passkeysQuery } from '../../api/account';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { canUsePasskeys, isDeclined, makePasskey } from '../../api/passkeys';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { ItemRow } from '../../ui/item-row';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';

/** Passkeys: signing in with a fingerprint, a face or a PIN. */
export function PasskeysSection() {
  const passkeys = useQuery(passkeysQuery);
  const toast = useToast();
  const [name, setName] = useState('');
  const make = useChangeOf('account', makePasskey, () => {
    setName('');
    toast({ tone: 'done', title: ACCOUNT.passkeyMade });
  });
  const remove = useChangeOf('account', (passkey: number) =>
    api.call('removePasskey', { params: { passkey } }),
  );
  const isPossible = canUsePasskeys();
  return (
    <Section title={ACCOUNT.passkeysTitle} text={ACCOUNT.passkeysText}>
      {passkeys.isPending && <Loading lines={1} />}
      {passkeys.isError && <Failure error={passkeys.error} onRetry={() => void passkeys.refetch()} />}
      <ul className="divide-y divide-line">
        {passkeys.data?.map((passkey) => (
          <ItemRow
            key={passkey.id}
            icon={Fingerprint}
            title={<span className="font-medium">{passkey.name}</span>}
            action={
              <Button
                size="small"
                look="quiet"
                aria-label={say(ACCOUNT.passkeyRemoveOf, { name: passkey.name })}
                isBusy={remove.isPending && remove.variables === passkey.id}
                onClick={() => remove.mutate(passkey.id)}
              >
                {ACCOUNT.passkeyRemove}
              </Button>
            }
          >
            {ACCOUNT.madeAt} <Time at={passkey.createdAt} /> ·{' '}
            {passkey.lastUsedAt === null ? (
              ACCOUNT.notUsed
            ) : (
              <>
                {ACCOUNT.used} <Time at={passkey.lastUsedAt} />
              </>
            )}
          </ItemRow>
        ))}
      </ul>
      {isPossible ? (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            make.mutate(name);
          }}
        >
          <Field
            label={ACCOUNT.passkeyName}
            placeholder={ACCOUNT.passkeyExample}
            maxLength={120}
            required
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" isBusy={make.isPending} disabled={name.trim() === ''}>
            {ACCOUNT.passkeyMake}
          </Button>
        </form>
      ) : (
        <p className="text-muted">{ACCOUNT.passkeysNot}</p>
      )}
      {isDeclined(make.error) ? (
        <p role="alert" className="text-danger">
          {ACCOUNT.passkeyDeclined}
        </p>
      ) : (
        <FormError error={make.error ?? remove.error} />
      )}
    </Section>
  );
}
