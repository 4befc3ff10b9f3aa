import { useQuery } from '@tanstack/react-query';
import { ShieldCheck } from 'lucide-react';
import { useState } from 'react';
import { secondFactorQuery } from '../../api/account';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { DangerDialog } from '../../ui/danger-dialog';
import { FormError } from '../../ui/field';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { EnableSecondFactor } from './enable-second-factor';
import { RecoveryCodes } from './recovery-codes';

/** Signing in with a code of an authenticator, too. */
export function SecondFactorSection() {
  const state = useQuery(secondFactorQuery);
  const [codes, setCodes] = useState<readonly string[]>();
  const [isLeaving, setLeaving] = useState(false);
  const propose = useChangeOf('account', async () => (await api.call('proposeSecondFactor', {})).data);
  const renew = useChangeOf('account', async () => (await api.call('renewRecoveryCodes', {})).data.codes);
  const remove = useChangeOf('account', () => api.call('removeSecondFactor', {}));
  const proposed = propose.data;
  return (
    <Section title={ACCOUNT.secondTitle} text={ACCOUNT.secondText}>
      {state.isPending && <Loading lines={1} />}
      {state.isError && <Failure error={state.error} onRetry={() => void state.refetch()} />}
      {codes && <RecoveryCodes codes={codes} onDone={() => setCodes(undefined)} />}
      {state.data?.isOn && (
        <>
          <p className="flex items-center gap-2">
            <ShieldCheck className="size-4 text-good" aria-hidden />
            {say(ACCOUNT.secondOn, { left: state.data.recoveryCodes })}
          </p>
          <FormError error={renew.error ?? remove.error} />
          <div className="flex flex-wrap gap-2">
            <Button isBusy={renew.isPending} onClick={() => renew.mutate(undefined, { onSuccess: setCodes })}>
              {ACCOUNT.newCodes}
            </Button>
            <Button look="quiet" onClick={() => setLeaving(true)}>
              {ACCOUNT.secondRemove}
            </Button>
          </div>
        </>
      )}
      {state.data?.isOn === false &&
        (proposed ? (
          <EnableSecondFactor
            proposed={proposed}
            onDone={(made) => {
              setCodes(made);
              propose.reset();
            }}
            onLeave={() => propose.reset()}
          />
        ) : (
          <>
            <FormError error={propose.error} />
            <Button isBusy={propose.isPending} onClick={() => propose.mutate(undefined)}>
              {ACCOUNT.secondBegin}
            </Button>
          </>
        ))}
      <DangerDialog
        title={ACCOUNT.secondRemoveTitle}
        description={ACCOUNT.secondRemoveText}
        isOpen={isLeaving}
        onOpenChange={setLeaving}
        act={ACCOUNT.secondRemove}
        leave={ACCOUNT.cancel}
        isBusy={remove.isPending}
        onAct={() => {
          setLeaving(false);
          setCodes(undefined);
          remove.mutate(undefined);
        }}
      />
    </Section>
  );
}
