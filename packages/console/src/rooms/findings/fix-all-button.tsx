import { useQuery } from '@tanstack/react-query';
import { WandSparkles } from 'lucide-react';
import { useState } from 'react';
import { useFixAll, useUndoFix } from '../../api/changes';
import { fixAllPreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Dialog, DialogClose } from '../../ui/dialog';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { CodeDifference } from './code-difference';

/** Mends all that can safely be mended, after showing what that changes. */
export function FixAllButton({ site, count }: { site: string; count: number }) {
  const [isOpen, setOpen] = useState(false);
  const preview = useQuery({ ...fixAllPreviewQuery(site), enabled: isOpen });
  const fix = useFixAll(site);
  const undo = useUndoFix(site);
  const toast = useToast();
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <WandSparkles className="size-4" aria-hidden /> Mend {count} at once…
      </Button>
      <Dialog
        title={`Mend ${count} findings`}
        description="In the draft only; visitors see nothing of it before you publish."
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        {preview.isPending && <Loading lines={3} label="Looking what would change" />}
        {preview.isError && <Failure error={preview.error} />}
        <ul className="list-disc space-y-1 pl-5 text-sm">
          {preview.data?.changes.map((change) => (
            <li key={change}>{change}</li>
          ))}
        </ul>
        {preview.data?.code.map(({ part, before, after }) => (
          <CodeDifference key={part} title={part} before={before} after={after} />
        ))}
        <div className="mt-4 flex justify-end gap-2">
          <DialogClose asChild>
            <Button look="quiet">Leave them</Button>
          </DialogClose>
          <Button
            look="primary"
            isBusy={fix.isPending}
            disabled={!preview.data}
            onClick={() =>
              fix.run(undefined, (before) => {
                setOpen(false);
                toast({
                  tone: 'done',
                  title: 'Mended in the draft',
                  text: 'Visitors get it when you publish.',
                  action: { label: 'Take it back', run: () => undo.run(before) },
                });
              })
            }
          >
            Mend them
          </Button>
        </div>
      </Dialog>
    </>
  );
}
