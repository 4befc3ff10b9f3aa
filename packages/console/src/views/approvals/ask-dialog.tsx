import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAskApproval } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { useToast } from '../../ui/toast';

interface AskDialogProps {
  readonly site: string;
  /** The draft that is seen. */
  readonly etag: string;
  /** The release that it is about; the draft when left out. */
  readonly release?: number;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** Asks somebody else to look at it; leads to the page on which they do. */
export function AskDialog({ site, etag, release, isOpen, onOpenChange }: AskDialogProps) {
  const ask = useAskApproval(site);
  const [message, setMessage] = useState('');
  const navigate = useNavigate();
  const toast = useToast();
  return (
    <FormDialog
      title={APPROVALS.askTitle}
      description={release === undefined ? APPROVALS.askText : say(APPROVALS.askRelease, { release })}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      leave={APPROVALS.cancel}
      submit={APPROVALS.ask}
      isBusy={ask.isPending}
      error={ask.error}
      onSubmit={() =>
        ask.run({ etag, message, ...(release === undefined ? {} : { release }) }, async ({ id }) => {
          toast({ tone: 'done', title: APPROVALS.asked, text: APPROVALS.askedText });
          await navigate(`/sites/${site}/approvals/${id}`);
        })
      }
    >
      <Field
        autoFocus
        label={APPROVALS.askMessage}
        placeholder={APPROVALS.askExample}
        required
        maxLength={120}
        value={message}
        onChange={(event) => setMessage(event.target.value)}
      />
    </FormDialog>
  );
}
