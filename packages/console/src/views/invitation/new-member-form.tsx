import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { signInWaysQuery } from '../../api/identities';
import { sessionQuery } from '../../api/queries';
import { MEMBERS } from '../../texts/members';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { say } from '../../texts/say';
import { ProviderButton } from '../sign-in/provider-button';
import { isChosen, NewPasswordFields, NO_PASSWORD } from '../sign-in/new-password-fields';

/** For somebody who has no account here: a name, what to sign in with, a password. */
export function NewMemberForm({ secret, name: invited }: { secret: string; name: string }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState(invited);
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState(NO_PASSWORD);
  const provider = useQuery(signInWaysQuery).data?.identityProvider?.name;
  const typed = { login: login.trim().toLowerCase(), name: name.trim() };
  const accept = useMutation({
    mutationFn: async () => {
      const body = { secret, ...typed, password: password.chosen };
      return (await api.call('acceptInvitation', { body })).data;
    },
    onSuccess: async (member) => {
      client.setQueryData(sessionQuery.queryKey, member);
      await navigate('/');
    },
  });
  const errors = fieldErrorsOf(accept.error);
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        accept.mutate();
      }}
    >
      <Field
        label={MEMBERS.yourName}
        autoComplete="name"
        required
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={errors.at('/name')}
      />
      <Field
        label={MEMBERS.userName}
        hint={MEMBERS.userNameHint}
        autoComplete="username"
        autoCapitalize="none"
        required
        maxLength={120}
        value={login}
        onChange={(event) => setLogin(event.target.value)}
        error={errors.at('/login')}
      />
      <NewPasswordFields value={password} onChange={setPassword} error={errors.at('/password')} />
      <FormError error={errors.isEmpty ? accept.error : undefined} />
      <Button
        type="submit"
        look="primary"
        className="w-full"
        isBusy={accept.isPending}
        disabled={typed.name === '' || typed.login === '' || !isChosen(password)}
      >
        {MEMBERS.join}
      </Button>
      {provider !== undefined && (
        <ProviderButton
          className="w-full"
          isDisabled={typed.name === '' || typed.login === ''}
          errand={{ to: 'join', secret, ...typed }}
        >
          {say(MEMBERS.joinWith, { provider })}
        </ProviderButton>
      )}
    </form>
  );
}
