import type { MemberResource } from '@pragmatica/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { sessionQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { isChosen, NewPasswordFields, NO_PASSWORD } from './new-password-fields';
import { SignInCard } from './sign-in-card';
import { SIGN_IN } from '../../texts/sign-in';
import { say } from '../../texts/say';

export function ChoosePassword({ member }: { member: MemberResource }) {
  const client = useQueryClient();
  const [current, setCurrent] = useState('');
  const [typed, setTyped] = useState(NO_PASSWORD);
  const change = useMutation({
    mutationFn: async () => (await api.call('changePassword', { body: { current, new: typed.chosen } })).data,
    onSuccess: (data) => client.setQueryData(sessionQuery.queryKey, data),
  });
  const refused = fieldErrorsOf(change.error).at('/new');
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
          error={refused === undefined ? change.error?.message : undefined}
        />
        <NewPasswordFields value={typed} onChange={setTyped} error={refused} />
        <Button
          type="submit"
          look="primary"
          className="w-full"
          disabled={!isChosen(typed)}
          isBusy={change.isPending}
        >
          {SIGN_IN.usePassword}
        </Button>
      </form>
    </SignInCard>
  );
}
