import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';

/** For somebody who is a member already. */
export function JoinForm({ secret, login }: { secret: string; login: string }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const join = useMutation({
    mutationFn: () => api.call('joinInvitation', { body: { secret } }),
    onSuccess: async () => {
      client.clear();
      await navigate('/');
    },
  });
  return (
    <div className="space-y-4 text-sm">
      <p>{say(MEMBERS.signedInAs, { login })}</p>
      <FormError error={join.error} />
      <Button look="primary" className="w-full" isBusy={join.isPending} onClick={() => join.mutate()}>
        {say(MEMBERS.joinAs, { login })}
      </Button>
      <p className="text-muted">{MEMBERS.notYou}</p>
    </div>
  );
}
