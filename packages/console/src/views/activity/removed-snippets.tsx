import { useQuery } from '@tanstack/react-query';
import { Trash2, Undo2 } from 'lucide-react';
import { removedSnippetsQuery, useUndo } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { ItemRow } from '../../ui/item-row';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';

interface RemovedSnippetsProps {
  readonly site: string;
  readonly onClose: () => void;
}

/** Snippets that were removed from the draft, to be brought back. */
export function RemovedSnippets({ site, onClose }: RemovedSnippetsProps) {
  const removed = useQuery(removedSnippetsQuery(site));
  const undo = useUndo(site);
  const toast = useToast();
  return (
    <Dialog
      title={ACTIVITY.removedSnippets}
      description={ACTIVITY.removedLead}
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
    >
      {removed.isPending && <Loading lines={2} label={ACTIVITY.loadingRemoved} />}
      {removed.isError && <Failure error={removed.error} onRetry={() => void removed.refetch()} />}
      {removed.data?.length === 0 && <p className="text-sm text-muted">{ACTIVITY.noneRemoved}</p>}
      <ul className="divide-y divide-line text-sm">
        {removed.data?.map(({ key, name, entry, by, at }) => (
          <ItemRow
            key={key}
            icon={Trash2}
            title={name}
            action={
              <Button
                size="small"
                needs="edit"
                isBusy={undo.isPending}
                aria-label={say(ACTIVITY.bringBackOf, { name })}
                onClick={() =>
                  undo.run({ entry, etag: '*', only: [key] }, () =>
                    toast({
                      tone: 'done',
                      title: say(ACTIVITY.broughtBack, { name }),
                      text: ACTIVITY.visitorsLater,
                    }),
                  )
                }
              >
                <Undo2 className="size-3.5" aria-hidden /> {ACTIVITY.bringBack}
              </Button>
            }
          >
            {say(ACTIVITY.removedBy, { by })}, <Time at={at} />
          </ItemRow>
        ))}
      </ul>
      <DialogActions leave={ACTIVITY.close}>{null}</DialogActions>
    </Dialog>
  );
}
