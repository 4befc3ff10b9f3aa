import type { ActivityEntry, Undone } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { undoPlanQuery, useUndo } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { FormDialog } from '../../ui/form-dialog';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { ConflictChoice, type Choice } from './conflict-choice';

interface UndoDialogProps {
  readonly site: string;
  readonly entry: ActivityEntry;
  readonly onClose: () => void;
}

/** Shows what undoing a change does to the draft, asks about what was changed again since, and does it. */
export function UndoDialog({ site, entry, onClose }: UndoDialogProps) {
  const plan = useQuery(undoPlanQuery(site, entry.id));
  const [choices, setChoices] = useState<Record<string, Choice>>({});
  const undo = useUndo(site);
  const toast = useToast();
  const conflicts = plan.data?.conflicts ?? [];
  const isDecided = conflicts.every(({ id }) => choices[id] !== undefined);
  const isNothing = plan.data?.changes.length === 0 && conflicts.length === 0;
  return (
    <FormDialog
      title={ACTIVITY.undoTitle}
      description={say(ACTIVITY.undoLead, { message: entry.message, by: entry.by })}
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
      leave={isNothing ? ACTIVITY.close : ACTIVITY.cancel}
      submit={ACTIVITY.undoIt}
      isBusy={undo.isPending}
      isDisabled={!plan.isSuccess || isNothing || !isDecided}
      error={undo.error}
      onSubmit={() =>
        undo.run({ entry: entry.id, etag: plan.data?.etag ?? '', choices }, () => {
          toast({ tone: 'done', title: ACTIVITY.undone, text: ACTIVITY.visitorsLater });
          onClose();
        })
      }
    >
      {plan.isPending && <Loading lines={2} label={ACTIVITY.undoLoading} />}
      {plan.isError && <Failure error={plan.error} onRetry={() => void plan.refetch()} />}
      {plan.data && <Planned plan={plan.data} />}
      {conflicts.length > 0 && (
        <div className="space-y-3">
          <p className="text-sm font-medium">{ACTIVITY.conflicts}</p>
          {conflicts.map((conflict) => (
            <ConflictChoice
              key={conflict.id}
              conflict={conflict}
              choice={choices[conflict.id]}
              onChange={(choice) => setChoices({ ...choices, [conflict.id]: choice })}
            />
          ))}
        </div>
      )}
    </FormDialog>
  );
}

function Planned({ plan: { changes, conflicts, gone } }: { plan: Undone }) {
  return (
    <div className="space-y-2 text-sm">
      {changes.length > 0 && (
        <>
          <p className="font-medium">{ACTIVITY.willChange}</p>
          <ul className="list-disc space-y-0.5 pl-5">
            {changes.map((change) => (
              <li key={change}>{change}</li>
            ))}
          </ul>
          <p className="text-muted">{ACTIVITY.visitorsLater}</p>
        </>
      )}
      {changes.length === 0 && conflicts.length === 0 && <p>{ACTIVITY.nothingLeft}</p>}
      {gone.length > 0 && <p>{say(ACTIVITY.gone, { keys: gone })}</p>}
    </div>
  );
}
