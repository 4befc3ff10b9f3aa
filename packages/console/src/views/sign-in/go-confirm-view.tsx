import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { goToProvider } from '../../api/identities';
import { SIGN_IN } from '../../texts/sign-in';
import { Button } from '../../ui/button';
import { Loading } from '../../ui/states';
import { SignInCard } from './sign-in-card';

/** What a small window opens with in which somebody confirms who they are: the way to the identity provider. */
export function GoConfirmView() {
  const isGone = useRef(false);
  const go = useMutation({ mutationFn: () => goToProvider({ to: 'confirm' }) });
  useEffect(() => {
    if (isGone.current) return;
    isGone.current = true;
    go.mutate();
  }, [go]);
  if (go.error)
    return (
      <SignInCard title={SIGN_IN.answerRefused} text={<span role="alert">{go.error.message}</span>}>
        <Button onClick={() => go.mutate()}>{SIGN_IN.tryAgain}</Button>
      </SignInCard>
    );
  return (
    <div className="mx-auto max-w-sm p-6">
      <Loading label={SIGN_IN.answering} />
    </div>
  );
}
