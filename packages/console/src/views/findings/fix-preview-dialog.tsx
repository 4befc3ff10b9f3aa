import type { SnippetResource } from '@pragmatica/contract';
import type { UseQueryResult } from '@tanstack/react-query';
import { useUndoFix } from '../../api/mutations';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { CodeDifference } from './code-difference';
import { FINDINGS } from '../../texts/findings';

interface Preview {
  readonly changes: readonly string[];
  readonly code: readonly { readonly part: string; readonly before: string; readonly after: string }[];
}

interface FixPreviewDialogProps {
  readonly site: string;
  readonly title: string;
  /** What would change. */
  readonly preview: UseQueryResult<Preview>;
  readonly isBusy: boolean;
  /** Does it; what the snippets were before comes back, so that it can be taken back. */
  readonly onFix: (onDone: (before: readonly SnippetResource[]) => void) => void;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** What fixing would change, before it does; afterwards it can be taken back. */
export function FixPreviewDialog({
  site,
  title,
  preview,
  isBusy,
  onFix,
  isOpen,
  onOpenChange,
}: FixPreviewDialogProps) {
  const undo = useUndoFix(site);
  const toast = useToast();
  const fixAll = (): void =>
    onFix((before) => {
      onOpenChange(false);
      toast({
        tone: 'done',
        title: FINDINGS.fixedDraft,
        text: FINDINGS.visitorsGetWhen,
        action: { label: FINDINGS.takeBack, run: () => undo.run(before) },
      });
    });
  return (
    <Dialog
      title={title}
      description={FINDINGS.draftOnlyVisitors}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      {preview.isPending && <Loading lines={2} label={FINDINGS.lookingWhatWould} />}
      {preview.isError && <Failure error={preview.error} />}
      <ul className="list-disc space-y-1 pl-5 text-sm">
        {preview.data?.changes.map((change) => (
          <li key={change}>{change}</li>
        ))}
      </ul>
      {preview.data?.code.map(({ part, before, after }, _, all) => (
        <CodeDifference
          key={part}
          title={all.length > 1 ? part : FINDINGS.code}
          before={before}
          after={after}
        />
      ))}
      <DialogActions leave={FINDINGS.leave}>
        <Button look="primary" needs="edit" isBusy={isBusy} disabled={!preview.data} onClick={fixAll}>
          {FINDINGS.fix}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
