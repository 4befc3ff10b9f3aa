import { MIN_PASSWORD_LENGTH, type MemberResource } from '@pragmatica/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import { sessionQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SignInCard } from './sign-in-card';
import { SIGN_IN } from '../../texts/sign-in';
import { say } from '../../texts/say';

export function ChoosePassword({ member }: { member: MemberResource }) {
  const client = useQueryClient();
  const [current, setCurrent] = useState('');
  const [chosen, setChosen] = useState('');
  const [again, setAgain] = useState('');
  const change = useMutation({
    mutationFn: async () => (await api.call('changePassword', { body: { current, new: chosen } })).data,
    onSuccess: (data) => client.setQueryData(sessionQuery.queryKey, data),
  });
  const differs = again !== '' && again !== chosen;
  return (
    <SignInCard
      title={SIGN_IN.chooseYourPassword}
      text={say(SIGN_IN.welcomeLoginOne, { login: member.login })}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Field
          label={SIGN_IN.oneTimePassword}
          type="password"
          autoComplete="current-password"
          required
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
          error={change.error?.message}
        />
        <Field
          label={SIGN_IN.newPassword}
          type="password"
          autoComplete="new-password"
          required
          minLength={MIN_PASSWORD_LENGTH}
          hint={say(SIGN_IN.minlengthCharactersMore, { minLength: MIN_PASSWORD_LENGTH })}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        />
        <Field
          label={SIGN_IN.sameAgain}
          type="password"
          autoComplete="new-password"
          required
          value={again}
          onChange={(event) => setAgain(event.target.value)}
          error={differs ? SIGN_IN.twoDiffer : undefined}
        />
        <Button
          type="submit"
          look="primary"
          className="w-full"
          disabled={differs || chosen.length < MIN_PASSWORD_LENGTH}
          isBusy={change.isPending}
        >
          {SIGN_IN.usePassword}
        </Button>
      </form>
    </SignInCard>
  );
}
