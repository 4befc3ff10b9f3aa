import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import { sessionQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SignInCard } from './sign-in-card';
import { SIGN_IN } from '../../texts/sign-in';

export function SignInView() {
  const client = useQueryClient();
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: async () => (await api.call('signIn', { body: { login, password } })).data,
    onSuccess: ({ member }) => client.setQueryData(sessionQuery.queryKey, member),
  });
  return (
    <SignInCard title={SIGN_IN.sign} text={SIGN_IN.firstTimeOne}>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <Field
          label={SIGN_IN.name}
          autoComplete="username"
          autoFocus
          required
          value={login}
          onChange={(event) => setLogin(event.target.value)}
        />
        <Field
          label={SIGN_IN.password}
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          error={signIn.error?.message}
        />
        <Button type="submit" look="primary" className="w-full" isBusy={signIn.isPending}>
          {SIGN_IN.sign}
        </Button>
      </form>
    </SignInCard>
  );
}
