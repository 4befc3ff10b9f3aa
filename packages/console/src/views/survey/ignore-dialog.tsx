import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useIgnoreSighting } from '../../api/mutations';
import type { SightingDetailData } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { FormDialog } from '../../ui/form-dialog';
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
    <FormDialog
      title={say(SURVEY.ignoreTitle, { name: sighting.name })}
      description={SURVEY.ignoreText}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        ignore.run({ sighting: sighting.id, reason }, () => {
          onOpenChange(false);
          toast({ tone: 'done', title: SURVEY.ignoredDone, text: sighting.name });
        });
      }}
      submit={SURVEY.ignore}
      isBusy={ignore.isPending}
      leave={SURVEY.later}
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
    </FormDialog>
  );
}
