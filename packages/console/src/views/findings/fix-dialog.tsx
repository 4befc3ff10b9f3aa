import type { FindingResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useFixFinding } from '../../api/mutations';
import { fixPreviewQuery } from '../../api/queries';
import { FixPreviewDialog } from './fix-preview-dialog';

interface FixDialogProps {
  readonly site: string;
  readonly finding: FindingResource;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** Fixes one finding. */
export function FixDialog({ site, finding, isOpen, onOpenChange }: FixDialogProps) {
  const preview = useQuery({ ...fixPreviewQuery(site, finding.id), enabled: isOpen });
  const fix = useFixFinding(site);
  return (
    <FixPreviewDialog
      site={site}
      title={finding.fix!.title}
      preview={preview}
      isBusy={fix.isPending}
      onFix={(onDone) => fix.run(finding, onDone)}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    />
  );
}
