import { useQuery } from '@tanstack/react-query';
import { WandSparkles } from 'lucide-react';
import { useState } from 'react';
import { useFixAll } from '../../api/mutations';
import { fixAllPreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { FixPreviewDialog } from './fix-preview-dialog';
import { FINDINGS } from '../../texts/findings';
import { say } from '../../texts/say';

/** Fixes all that can safely be fixed. */
export function FixAllButton({ site, count }: { site: string; count: number }) {
  const [isOpen, setOpen] = useState(false);
  const preview = useQuery({ ...fixAllPreviewQuery(site), enabled: isOpen });
  const fix = useFixAll(site);
  return (
    <>
      <Button needs="edit" onClick={() => setOpen(true)}>
        <WandSparkles className="size-4" aria-hidden /> {say(FINDINGS.fixCountOnce, { count })}
      </Button>
      <FixPreviewDialog
        site={site}
        title={say(FINDINGS.fixCountFindings, { count })}
        preview={preview}
        isBusy={fix.isPending}
        onFix={(onDone) => fix.run(undefined, onDone)}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </>
  );
}
