import { Link2 } from 'lucide-react';
import { useState } from 'react';
import { useLinkApproval } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { SecretBox } from '../../ui/secret-box';
import { Time } from '../../ui/time';

/** A link for somebody without an account who only approves. */
export function LinkButton({ site, approval }: { site: string; approval: number }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const link = useLinkApproval(site, approval);
  const change = (open: boolean): void => {
    setOpen(open);
    if (!open) link.reset();
  };
  const frame = { title: APPROVALS.linkTitle, isOpen, onOpenChange: change };
  return (
    <>
      <Button needs="own" onClick={() => setOpen(true)}>
        <Link2 className="size-4" aria-hidden /> {APPROVALS.link}
      </Button>
      {link.data ? (
        <Dialog
          {...frame}
          description={
            <>
              {say(APPROVALS.sendLink, { name })} <Time at={link.data.until} />.
            </>
          }
        >
          <SecretBox
            secret={new URL(link.data.path, window.location.origin).href}
            next={say(APPROVALS.linkCopied, { name })}
          />
          <DialogActions leave={APPROVALS.done}>{null}</DialogActions>
        </Dialog>
      ) : (
        <FormDialog
          {...frame}
          description={APPROVALS.linkText}
          leave={APPROVALS.cancel}
          submit={APPROVALS.makeLink}
          isBusy={link.isPending}
          error={link.error}
          onSubmit={() => link.mutate(name)}
        >
          <Field
            autoFocus
            label={APPROVALS.linkName}
            placeholder={APPROVALS.linkExample}
            required
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </FormDialog>
      )}
    </>
  );
}
