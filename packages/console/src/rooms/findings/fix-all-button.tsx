import { useQuery } from '@tanstack/react-query';
import { WandSparkles } from 'lucide-react';
import { useState } from 'react';
import { useFixAll } from '../../api/changes';
import { fixAllPreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { MendDialog } from './mend-dialog';

/** Mends all that can safely be mended. */
export function FixAllButton({ site, count }: { site: string; count: number }) {
  const [isOpen, setOpen] = useState(false);
  const preview = useQuery({ ...fixAllPreviewQuery(site), enabled: isOpen });
  const fix = useFixAll(site);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <WandSparkles className="size-4" aria-hidden /> Mend {count} at once…
      </Button>
      <MendDialog
        site={site}
        title={`Mend ${count} findings`}
        preview={preview}
        isBusy={fix.isPending}
        onMend={(onDone) => fix.run(undefined, onDone)}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </>
  );
}
