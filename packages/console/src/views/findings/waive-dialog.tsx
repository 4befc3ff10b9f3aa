import type { FindingResource } from '@pragmatica/contract';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useWaiveFinding } from '../../api/mutations';
import { FormDialog } from '../../ui/form-dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { FINDINGS } from '../../texts/findings';

interface WaiveDialogProps {
  readonly site: string;
  readonly finding: FindingResource;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

const DAYS = 90;
const DAY_MS = 24 * 60 * 60 * 1000;

/** Accepting a finding: why, and until when. */
export function WaiveDialog({ site, finding, isOpen, onOpenChange }: WaiveDialogProps) {
  const waive = useWaiveFinding(site);
  const toast = useToast();
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState(() => new Date(Date.now() + DAYS * DAY_MS).toISOString().slice(0, 10));
  const errors = fieldErrorsOf(waive.error);
  return (
    <FormDialog
      title={FINDINGS.acceptThis}
      description={finding.title}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        waive.run({ finding: finding.id, reason, until }, () => {
          onOpenChange(false);
          toast({
            tone: 'done',
            title: FINDINGS.accepted,
            text: FINDINGS.comesBackWhen,
          });
        });
      }}
      submit={FINDINGS.accept}
      isBusy={waive.isPending}
      leave={FINDINGS.leaveOpen}
    >
      <Field
        label={FINDINGS.whyAllRight}
        hint={FINDINGS.readWhoeverWonders}
        placeholder={FINDINGS.theirServerHas}
        required
        minLength={3}
        maxLength={500}
        value={reason}
        error={errors.at('/reason')}
        onChange={(event) => setReason(event.target.value)}
      />
      <Field
        label={FINDINGS.until}
        type="date"
        required
        value={until}
        error={errors.at('/until')}
        onChange={(event) => setUntil(event.target.value)}
      />
    </FormDialog>
  );
}
