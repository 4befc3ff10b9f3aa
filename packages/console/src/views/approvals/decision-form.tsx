import type { ApprovalDetail } from '@pragmatica/contract';
import { Check, X } from 'lucide-react';
import { useState } from 'react';
import { APPROVALS } from '../../texts/approvals';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { Section } from '../../ui/section';

interface Decided {
  readonly decision: 'approved' | 'declined';
  readonly note: string;
}

interface DecisionFormProps {
  readonly state: ApprovalDetail['state'];
  readonly isBusy: boolean;
  readonly error: Error | null;
  readonly onDecide: (decided: Decided) => void;
}

const SHORTEST_NOTE = 3;

/** Approve, or decline and say why. What was approved can be taken back until it is published. */
export function DecisionForm({ state, isBusy, error, onDecide }: DecisionFormProps) {
  const [note, setNote] = useState('');
  const [isAsked, setAsked] = useState(false);
  const said = note.trim();
  const isMissing = isAsked && said.length < SHORTEST_NOTE;
  const decide = (decision: Decided['decision']): void => {
    // Whoever asked must know what to do about it.
    if (decision === 'declined' && said.length < SHORTEST_NOTE) setAsked(true);
    else onDecide({ decision, note: said.length < SHORTEST_NOTE ? '' : said });
  };
  return (
    <Section title={APPROVALS.decide}>
      <Field
        label={APPROVALS.note}
        hint={APPROVALS.noteHint}
        error={isMissing ? APPROVALS.noteMissing : undefined}
        maxLength={500}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <FormError error={error} />
      <div className="flex flex-wrap gap-2">
        {state === 'open' && (
          <Button look="primary" needs="publish" isBusy={isBusy} onClick={() => decide('approved')}>
            <Check className="size-4" aria-hidden /> {APPROVALS.approve}
          </Button>
        )}
        <Button needs="publish" isBusy={isBusy} onClick={() => decide('declined')}>
          <X className="size-4" aria-hidden /> {state === 'open' ? APPROVALS.decline : APPROVALS.takeBack}
        </Button>
      </div>
    </Section>
  );
}
