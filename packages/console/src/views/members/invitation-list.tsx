import type { InvitationResource } from '@pragmatica/contract';
import { Mail } from 'lucide-react';
import { useWithdraw } from '../../api/members';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
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
          <li key={one.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
            <Mail className="size-4 shrink-0 text-muted" aria-hidden />
            <div className="min-w-52 flex-1">
              <p>
                <span className="font-medium [overflow-wrap:anywhere]">{one.name}</span>{' '}
                <span className="text-muted">{roleWords(one)}</span>
              </p>
              <p className="text-[13px] text-muted">
                {say(MEMBERS.invitationBy, { by: one.by })} <Time at={one.expiresAt} />
              </p>
            </div>
            <Button
              size="small"
              look="quiet"
              aria-label={say(MEMBERS.withdrawOf, { name: one.name })}
              isBusy={withdraw.isPending && withdraw.variables === one.id}
              onClick={() => withdraw.mutate(one.id)}
            >
              {MEMBERS.withdraw}
            </Button>
          </li>
        ))}
      </ul>
    </Section>
  );
}
