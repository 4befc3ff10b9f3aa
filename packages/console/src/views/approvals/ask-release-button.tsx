import type { ReleaseSummary } from '@pragmatica/contract';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Eye } from 'lucide-react';
import { useState } from 'react';
import { approvalsQuery } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { Button } from '../../ui/button';
import { AskDialog } from './ask-dialog';

/** Asks for approval of a release that is to go live, where the site asks for it; nothing where it needs none. */
export function AskReleaseButton({ site, release }: { site: string; release: ReleaseSummary }) {
  const [isOpen, setOpen] = useState(false);
  const approvals = useInfiniteQuery(approvalsQuery(site)).data?.pages[0];
  const { isNeeded = false, since = null } = approvals?.rule ?? {};
  const { number, createdAt, environments } = release;
  const isAsked = approvals?.items.some(
    (one) => one.release === number && ['open', 'approved', 'published'].includes(one.state),
  );
  if (!isNeeded || isAsked || since === null || createdAt < since || !environments.includes('staging'))
    return null;
  return (
    <>
      <Button size="small" needs="edit" onClick={() => setOpen(true)}>
        <Eye className="size-3.5" aria-hidden /> {APPROVALS.ask}
      </Button>
      <AskDialog site={site} etag="*" release={number} isOpen={isOpen} onOpenChange={setOpen} />
    </>
  );
}
