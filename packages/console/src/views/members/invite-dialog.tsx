import type { Role } from '@pragmatica/core';
import { ROLES } from '@pragmatica/core';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useInvite } from '../../api/members';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { SecretBox } from '../../ui/secret-box';
import { SitePicker } from './site-picker';

const DAYS = [1, 7, 30];

interface InviteDialogProps {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  /** The only site that it is to; somebody who owns the installation chooses when left out. */
  readonly site?: { readonly key: string; readonly name: string };
}

/** Whom to invite, to what, and then the link to send. */
export function InviteDialog({ isOpen, onClose, site }: InviteDialogProps) {
  const invite = useInvite();
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('edit');
  const [where, setWhere] = useState<'some' | 'all'>('some');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [days, setDays] = useState(7);
  const errors = fieldErrorsOf(invite.error);
  const keys = site ? [site.key] : [...chosen];
  const isEverywhere = site === undefined && where === 'all';
  const title = site ? say(MEMBERS.inviteToSite, { site: site.name }) : MEMBERS.inviteTitle;
  const made = invite.data;
  const close = (): void => {
    onClose();
    invite.reset();
    setName('');
    setChosen(new Set());
  };
  const frame = {
    title,
    description: MEMBERS.inviteText,
    isOpen,
    onOpenChange: (open: boolean) => !open && close(),
  };
  if (made)
    return (
      <Dialog {...frame}>
        <SecretBox
          title={say(MEMBERS.made, { name: made.name })}
          secret={new URL(made.path, window.location.origin).href}
          next={MEMBERS.linkCopied}
          note={MEMBERS.madeText}
        />
        <DialogActions leave={MEMBERS.done}>{null}</DialogActions>
      </Dialog>
    );
  return (
    <FormDialog
      {...frame}
      onSubmit={() =>
        invite.mutate({
          ...{ name, days },
          role: isEverywhere ? role : null,
          sites: isEverywhere ? [] : keys.map((key) => ({ site: key, role })),
        })
      }
      submit={MEMBERS.make}
      isBusy={invite.isPending}
      isDisabled={name.trim() === '' || (!isEverywhere && keys.length === 0)}
      leave={MEMBERS.cancel}
      error={errors.isEmpty ? invite.error : undefined}
    >
      <Field
        label={MEMBERS.name}
        hint={MEMBERS.nameHint}
        required
        maxLength={120}
        value={name}
        error={errors.at('/name')}
        onChange={(event) => setName(event.target.value)}
      />
      <SelectField
        label={MEMBERS.role}
        value={role}
        options={ROLES.map((one) => [one, MEMBERS.roles[one]] as const)}
        onChange={(one) => setRole(one as Role)}
        hint={MEMBERS.siteText}
      />
      {site === undefined && (
        <SelectField
          label={MEMBERS.where}
          value={where}
          options={[
            ['some', MEMBERS.someSites],
            ['all', MEMBERS.everywhere],
          ]}
          onChange={(one) => setWhere(one as typeof where)}
        />
      )}
      {site === undefined && where === 'some' && (
        <SitePicker chosen={chosen} onChange={setChosen} may={(rights) => rights.includes('own')} />
      )}
      <SelectField
        label={MEMBERS.days}
        value={String(days)}
        options={DAYS.map((one) => [String(one), say(MEMBERS.someDays, { days: one })] as const)}
        onChange={(one) => setDays(Number(one))}
      />
    </FormDialog>
  );
}

/** The button that opens it. */
export function InviteButton({ site }: Pick<InviteDialogProps, 'site'>) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button look="primary" needs={site ? 'own' : undefined} onClick={() => setOpen(true)}>
        {MEMBERS.invite}
      </Button>
      <InviteDialog isOpen={isOpen} onClose={() => setOpen(false)} {...(site ? { site } : {})} />
    </>
  );
}
