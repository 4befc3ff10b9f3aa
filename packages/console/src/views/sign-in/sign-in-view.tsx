import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import { sessionQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SignInCard } from './sign-in-card';

export function SignInView() {
  const client = useQueryClient();
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: async () => (await api.call('signIn', { body: { login, password } })).data,
    onSuccess: ({ member }) => client.setQueryData(sessionQuery.queryKey, member),
  });
  return (
    <SignInCard
      title="Sign in"
      text="The first time, with the one-time password that the service printed when it started."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <Field
          label="Name"
          autoComplete="username"
          autoFocus
          required
          value={login}
          onChange={(event) => setLogin(event.target.value)}
        />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          error={signIn.error?.message}
        />
        <Button type="submit" look="primary" className="w-full" isBusy={signIn.isPending}>
          Sign in
        </Button>
      </form>
    </SignInCard>
  );
}
