import type { InvitationResource } from '@pragmatica/contract';
import { Mail } from 'lucide-react';
import { useWithdraw } from '../../api/members';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { ItemRow } from '../../ui/item-row';
import { Section } from '../../ui/section';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { roleWords } from './role-words';

/** Invitations that nobody has used yet. */
export function InvitationList({ invitations }: { invitations: readonly InvitationResource[] }) {
  const toast = useToast();
  const withdraw = useWithdraw(() => toast({ tone: 'done', title: MEMBERS.withdrawn }));
  if (invitations.length === 0) return null;
  return (
    <Section title={MEMBERS.invitations}>
      <FormError error={withdraw.error} />
      <ul className="divide-y divide-line">
        {invitations.map((one) => (
          <ItemRow
            key={one.id}
            icon={Mail}
            title={
              <>
                <span className="font-medium">{one.name}</span>{' '}
                <span className="text-muted">{roleWords(one)}</span>
              </>
            }
            action={
              <Button
                size="small"
                look="quiet"
                aria-label={say(MEMBERS.withdrawOf, { name: one.name })}
                isBusy={withdraw.isPending && withdraw.variables === one.id}
                onClick={() => withdraw.mutate(one.id)}
              >
                {MEMBERS.withdraw}
              </Button>
            }
          >
            {say(MEMBERS.invitationBy, { by: one.by })} <Time at={one.expiresAt} />
          </ItemRow>
        ))}
      </ul>
    </Section>
  );
}
