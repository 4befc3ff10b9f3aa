import type { MemberResource } from '@pragmatica/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import { sessionQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SignInCard } from './sign-in-card';

const MIN_LENGTH = 10;

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
      title="Choose your password"
      text={`Welcome, ${member.login}. The one-time password has done its work; nobody but you should know the next one.`}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Field
          label="One-time password"
          type="password"
          autoComplete="current-password"
          required
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
          error={change.error?.message}
        />
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          required
          minLength={MIN_LENGTH}
          hint={`${MIN_LENGTH} characters or more; a few words are fine.`}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        />
        <Field
          label="The same again"
          type="password"
          autoComplete="new-password"
          required
          value={again}
          onChange={(event) => setAgain(event.target.value)}
          error={differs ? 'The two differ.' : undefined}
        />
        <Button
          type="submit"
          look="primary"
          className="w-full"
          disabled={differs || chosen.length < MIN_LENGTH}
          isBusy={change.isPending}
        >
          Use this password
        </Button>
      </form>
    </SignInCard>
  );
}
