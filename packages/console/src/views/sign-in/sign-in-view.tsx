import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Fingerprint } from 'lucide-react';
import { useState } from 'react';
import { ApiError } from '@pragmatica/contract';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { canUsePasskeys, isDeclined, signInByPasskey } from '../../api/passkeys';
import { signInWaysQuery } from '../../api/identities';
import { goOnAs } from '../../api/session-over';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { ProviderButton } from './provider-button';
import { say } from '../../texts/say';
import { SignInCard } from './sign-in-card';
import { SIGN_IN } from '../../texts/sign-in';

function isCodeNeeded(error: Error | null): boolean {
  return error instanceof ApiError && error.problem.type.endsWith('code-required');
}

/** @param again - whose session is over, where what they typed is still there */
export function SignInView({ again }: { readonly again?: string }) {
  const client = useQueryClient();
  const [login, setLogin] = useState(again ?? '');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const signIn = useMutation({
    mutationFn: async () => {
      const body = { login, password, ...(code === '' ? {} : { code }) };
      return (await api.call('signIn', { body })).data;
    },
    onSuccess: ({ member }) => goOnAs(client, member),
  });
  const byPasskey = useMutation({
    mutationFn: signInByPasskey,
    onSuccess: (member) => goOnAs(client, member),
  });
  const provider = useQuery(signInWaysQuery).data?.identityProvider?.name;
  const needsCode = isCodeNeeded(signIn.error) || code !== '';
  const wrong = fieldErrorsOf(signIn.error).at('/code');
  return (
    <SignInCard
      title={again === undefined ? SIGN_IN.sign : SIGN_IN.again}
      text={again === undefined ? SIGN_IN.firstTimeOne : say(SIGN_IN.againText, { login: again })}
    >
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
          autoFocus={again === undefined}
          required
          value={login}
          onChange={(event) => setLogin(event.target.value)}
        />
        <Field
          label={SIGN_IN.password}
          type="password"
          autoComplete="current-password"
          autoFocus={again !== undefined}
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          error={isCodeNeeded(signIn.error) ? undefined : signIn.error?.message}
        />
        {needsCode && (
          <Field
            label={SIGN_IN.code}
            hint={SIGN_IN.codeHint}
            autoComplete="one-time-code"
            autoFocus
            required
            maxLength={40}
            value={code}
            onChange={(event) => setCode(event.target.value)}
            error={wrong}
          />
        )}
        <Button type="submit" look="primary" className="w-full" isBusy={signIn.isPending}>
          {SIGN_IN.sign}
        </Button>
      </form>
      {provider !== undefined && (
        <div className="mt-3">
          <ProviderButton
            className="w-full"
            errand={{ to: 'sign-in', back: window.location.pathname + window.location.search }}
          >
            {say(SIGN_IN.identity, { provider })}
          </ProviderButton>
        </div>
      )}
      {canUsePasskeys() && (
        <div className="mt-3 space-y-2">
          <Button className="w-full" isBusy={byPasskey.isPending} onClick={() => byPasskey.mutate()}>
            <Fingerprint className="size-4" aria-hidden /> {SIGN_IN.passkey}
          </Button>
          {isDeclined(byPasskey.error) ? (
            <p role="alert" className="text-sm text-danger">
              {SIGN_IN.passkeyDeclined}
            </p>
          ) : (
            <FormError error={byPasskey.error} />
          )}
        </div>
      )}
    </SignInCard>
  );
}
