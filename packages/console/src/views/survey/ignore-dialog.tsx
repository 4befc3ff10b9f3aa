import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useIgnoreSighting } from '../../api/mutations';
import type { SightingDetailData } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';

interface IgnoreDialogProps {
  readonly site: string;
  readonly sighting: SightingDetailData;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** Leaving something in the pages alone: why. */
export function IgnoreDialog({ site, sighting, isOpen, onOpenChange }: IgnoreDialogProps) {
  const ignore = useIgnoreSighting(site);
  const toast = useToast();
  const [reason, setReason] = useState('');
  return (
    <Dialog
      title={say(SURVEY.ignoreTitle, { name: sighting.name })}
      description={SURVEY.ignoreText}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          ignore.run({ sighting: sighting.id, reason }, () => {
            onOpenChange(false);
            toast({ tone: 'done', title: SURVEY.ignoredDone, text: sighting.name });
          });
        }}
      >
        <Field
          label={SURVEY.ignoreWhy}
          hint={SURVEY.ignoreWhyHint}
          required
          minLength={3}
          maxLength={500}
          value={reason}
          error={fieldErrorsOf(ignore.error).at('/reason')}
          onChange={(event) => setReason(event.target.value)}
        />
        <DialogActions leave={SURVEY.later}>
          <Button type="submit" look="primary" isBusy={ignore.isPending}>
            {SURVEY.ignore}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
