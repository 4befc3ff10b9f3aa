import { useQuery } from '@tanstack/react-query';
import { KeyRound } from 'lucide-react';
import { useEffect, useState } from 'react';
import { identitiesQuery, onConfirmedElsewhere, signInWaysQuery } from '../../api/identities';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';

/** Confirming at the identity provider, in a small window: what somebody was at stays as it is. */
export function ConfirmElsewhere({ onConfirmed }: { onConfirmed: () => void }) {
  const provider = useQuery(signInWaysQuery).data?.identityProvider?.name;
  const identities = useQuery(identitiesQuery).data ?? [];
  const [opened, setOpened] = useState<'window' | 'nothing'>();
  useEffect(() => onConfirmedElsewhere(onConfirmed), [onConfirmed]);
  if (provider === undefined || identities.length === 0) return null;
  return (
    <div className="space-y-2">
      <Button
        onClick={() => {
          const made = window.open('/sign-in/confirm', 'pragmatica-confirm', 'popup,width=480,height=640');
          setOpened(made ? 'window' : 'nothing');
        }}
      >
        <KeyRound className="size-4" aria-hidden /> {say(ACCOUNT.confirmWith, { provider })}
      </Button>
      <p role="status" className="text-sm text-muted">
        {opened === 'window' && ACCOUNT.confirmWaiting}
        {opened === 'nothing' && ACCOUNT.confirmBlocked}
      </p>
    </div>
  );
}
