import type { MemberDetail } from '@pragmatica/contract';
import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { useRemoveMember, useResetPassword, useRoleEverywhere } from '../../api/members';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { DangerDialog } from '../../ui/danger-dialog';
import { Dialog, DialogActions } from '../../ui/dialog';
import { FormError } from '../../ui/field';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { RoleSelect } from './role-select';
import { roleWords } from './role-words';
import { SecretBox } from '../../ui/secret-box';

/** A member, with the role at all sites, and what an owner of the installation can do about them. */
export function MemberRow({ member }: { member: MemberDetail }) {
  const { login, name, role, sites, lastSeenAt, tokens, isYou } = member;
  const { mustChangePassword, hasSecondFactor, hasPassword, identities } = member;
  const toast = useToast();
  const change = useRoleEverywhere();
  const [asking, setAsking] = useState<'remove' | 'password'>();
  const close = (): void => setAsking(undefined);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1.5 py-2.5">
      <UserRound className="size-4 shrink-0 text-muted" aria-hidden />
      <div className="min-w-52 flex-1">
        <p className="[overflow-wrap:anywhere]">
          <span className="font-medium">{name}</span>{' '}
          <span className="text-muted">
            {login}
            {isYou && ` · ${MEMBERS.you}`}
          </span>
        </p>
        {sites.length > 0 && <p className="text-[13px] text-muted">{roleWords({ role: null, sites })}</p>}
        <p className="text-[13px] text-muted">
          {lastSeenAt === null ? (
            MEMBERS.neverSeen
          ) : (
            <>
              {MEMBERS.lastSeen} <Time at={lastSeenAt} />
            </>
          )}
          {tokens > 0 && ` · ${say(MEMBERS.tokens, { count: tokens })}`}
          {identities > 0 && ` · ${MEMBERS.hasIdentity}`}
          {!hasPassword && ` · ${MEMBERS.noPassword}`}
          {hasSecondFactor && ` · ${MEMBERS.hasCode}`}
          {mustChangePassword && ` · ${MEMBERS.oneTime}`}
        </p>
        <FormError error={change.error} />
      </div>
      <span className="flex items-center gap-1.5 text-[13px] text-muted">
        <RoleSelect
          label={say(MEMBERS.roleOf, { name })}
          value={role}
          hasNone
          isDisabled={change.isPending}
          onChange={(next) =>
            change.mutate(
              { member: login, role: next },
              { onSuccess: () => toast({ tone: 'done', title: MEMBERS.changed }) },
            )
          }
        />
        {MEMBERS.roleEverywhere}
      </span>
      <span className="flex gap-1">
        {!isYou && (
          <Button
            size="small"
            look="quiet"
            aria-label={say(MEMBERS.resetOf, { name })}
            onClick={() => setAsking('password')}
          >
            {MEMBERS.resetPassword}
          </Button>
        )}
        <Button
          size="small"
          look="quiet"
          aria-label={say(MEMBERS.removeOf, { name })}
          onClick={() => setAsking('remove')}
        >
          {MEMBERS.remove}
        </Button>
      </span>
      <RemoveDialog member={member} isOpen={asking === 'remove'} onClose={close} />
      <PasswordDialog member={member} isOpen={asking === 'password'} onClose={close} />
    </li>
  );
}

interface MemberDialogProps {
  readonly member: MemberDetail;
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

function RemoveDialog({ member: { login, name }, isOpen, onClose }: MemberDialogProps) {
  const toast = useToast();
  const remove = useRemoveMember(() => toast({ tone: 'done', title: say(MEMBERS.removed, { name }) }));
  return (
    <DangerDialog
      title={say(MEMBERS.removeTitle, { name })}
      description={MEMBERS.removeText}
      isOpen={isOpen}
      onOpenChange={(open) => !open && onClose()}
      act={MEMBERS.remove}
      leave={MEMBERS.cancel}
      isBusy={remove.isPending}
      error={remove.error}
      onAct={() => remove.mutate(login)}
    />
  );
}

function PasswordDialog({ member: { login, name }, isOpen, onClose }: MemberDialogProps) {
  const reset = useResetPassword();
  const close = (): void => {
    onClose();
    reset.reset();
  };
  return (
    <Dialog
      title={say(MEMBERS.resetTitle, { name })}
      description={MEMBERS.resetText}
      isOpen={isOpen}
      onOpenChange={(open) => !open && close()}
    >
      <FormError error={reset.error} />
      {reset.data !== undefined && (
        <SecretBox
          title={say(MEMBERS.resetDone, { name })}
          secret={reset.data}
          next={MEMBERS.passwordCopied}
        />
      )}
      <DialogActions leave={reset.data === undefined ? MEMBERS.cancel : MEMBERS.done}>
        {reset.data === undefined && (
          <Button look="danger" isBusy={reset.isPending} onClick={() => reset.mutate(login)}>
            {MEMBERS.reset}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
