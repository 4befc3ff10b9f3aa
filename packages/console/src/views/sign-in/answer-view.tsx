import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { finishErrand, signInWaysQuery, takeErrand, tellConfirmed, type Errand } from '../../api/identities';
import { sessionQuery } from '../../api/queries';
import { SIGN_IN } from '../../texts/sign-in';
import { say } from '../../texts/say';
import { Loading } from '../../ui/states';
import { ProviderButton } from './provider-button';
import { SignInCard } from './sign-in-card';
import { ConfirmDialog } from '../account/confirm-dialog';

/** Where browsers come back to from the identity provider. */
export function AnswerView() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const provider = useQuery(signInWaysQuery).data?.identityProvider?.name ?? '';
  const [errand, setErrand] = useState<Errand | null>();
  const isTaken = useRef(false);
  const finish = useMutation({
    mutationFn: async ({ errand: asked, proof }: NonNullable<ReturnType<typeof takeErrand>>) =>
      finishErrand(asked, proof),
    onSuccess: async (member, { errand: asked }) => {
      if (asked.to === 'confirm') {
        tellConfirmed();
        window.close();
        return;
      }
      if (member) {
        client.clear();
        client.setQueryData(sessionQuery.queryKey, member);
      }
      await navigate(asked.to === 'join' ? '/' : wayBack(asked), { replace: true });
    },
  });
  useEffect(() => {
    if (isTaken.current) return;
    isTaken.current = true;
    const taken = takeErrand(window.location.search);
    // What came along works once, and is nobody's business in the history.
    window.history.replaceState(window.history.state, '', window.location.pathname);
    setErrand(taken?.errand ?? null);
    if (taken) finish.mutate(taken);
  }, [finish]);
  if (errand === null)
    return (
      <SignInCard title={SIGN_IN.answerLost} text={SIGN_IN.answerLostText}>
        <Back to="/" />
      </SignInCard>
    );
  if (finish.error)
    return (
      <SignInCard
        title={
          errand?.to === 'connect' || errand?.to === 'confirm'
            ? say(SIGN_IN.answerNotTaken, { provider })
            : SIGN_IN.answerRefused
        }
        text={<span role="alert">{finish.error.message}</span>}
      >
        <div className="space-y-4">
          {errand && errand.to !== 'confirm' && (
            <ProviderButton className="w-full" errand={errand} isFresh>
              {say(SIGN_IN.asSomebodyElse, { provider })}
            </ProviderButton>
          )}
          <Back to={errand ? wayBack(errand) : '/'} />
        </div>
      </SignInCard>
    );
  if (finish.isSuccess && errand?.to === 'confirm')
    return (
      <SignInCard title={SIGN_IN.confirmed} text={SIGN_IN.confirmedText}>
        {null}
      </SignInCard>
    );
  return (
    <div className="mx-auto max-w-sm p-6">
      <Loading label={SIGN_IN.answering} />
      <ConfirmDialog />
    </div>
  );
}

function wayBack(errand: Errand): string {
  switch (errand.to) {
    case 'sign-in':
      return errand.back;
    case 'join':
      return `/invitation#${errand.secret}`;
    case 'connect':
      return '/account';
    case 'confirm':
      return '/sign-in/confirm';
  }
}

function Back({ to }: { to: string }) {
  return (
    <Link to={to} replace className="text-sm underline">
      {SIGN_IN.back}
    </Link>
  );
}
