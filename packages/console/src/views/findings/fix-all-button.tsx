import { useQuery } from '@tanstack/react-query';
import { WandSparkles } from 'lucide-react';
import { useState } from 'react';
import { useFixAll } from '../../api/mutations';
import { fixAllPreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { FixPreviewDialog } from './fix-preview-dialog';

/** Fixes all that can safely be fixed. */
export function FixAllButton({ site, count }: { site: string; count: number }) {
  const [isOpen, setOpen] = useState(false);
  const preview = useQuery({ ...fixAllPreviewQuery(site), enabled: isOpen });
  const fix = useFixAll(site);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <WandSparkles className="size-4" aria-hidden /> Fix {count} at once…
      </Button>
      <FixPreviewDialog
        site={site}
        title={`Fix ${count} findings`}
        preview={preview}
        isBusy={fix.isPending}
        onFix={(onDone) => fix.run(undefined, onDone)}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </>
  );
}
