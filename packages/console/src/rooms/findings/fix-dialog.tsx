import type { FindingResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useFixFinding, useUndoFix } from '../../api/changes';
import { fixPreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Dialog, DialogClose } from '../../ui/dialog';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { CodeDifference } from './code-difference';

interface FixDialogProps {
  readonly site: string;
  readonly finding: FindingResource;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** What a fix would change, before it does; afterwards it can be taken back. */
export function FixDialog({ site, finding, isOpen, onOpenChange }: FixDialogProps) {
  const preview = useQuery({ ...fixPreviewQuery(site, finding.id), enabled: isOpen });
  const fix = useFixFinding(site);
  const undo = useUndoFix(site);
  const toast = useToast();
  const apply = (): void =>
    fix.run(finding, (before) => {
      onOpenChange(false);
      toast({
        tone: 'done',
        title: 'Mended in the draft',
        text: 'Visitors get it when you publish.',
        action: { label: 'Take it back', run: () => undo.run(before) },
      });
    });
  return (
    <Dialog
      title={finding.fix!.title}
      description="In the draft only; visitors see nothing of it before you publish."
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      {preview.isPending && <Loading lines={2} label="Looking what would change" />}
      {preview.isError && <Failure error={preview.error} />}
      {preview.data && (
        <ul className="list-disc space-y-1 pl-5 text-sm">
          {preview.data.changes.map((change) => (
            <li key={change}>{change}</li>
          ))}
        </ul>
      )}
      {preview.data?.code.map(({ part, before, after }) => (
        <CodeDifference key={part} title="The code" before={before} after={after} />
      ))}
      <div className="mt-4 flex justify-end gap-2">
        <DialogClose asChild>
          <Button look="quiet">Leave it</Button>
        </DialogClose>
        <Button look="primary" isBusy={fix.isPending} disabled={!preview.data} onClick={apply}>
          Mend it
        </Button>
      </div>
    </Dialog>
  );
}
