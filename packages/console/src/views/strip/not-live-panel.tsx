import type { Change } from '@pragmatica/core';
import type { ApprovalResource } from '@pragmatica/contract';
import { useInfiniteQuery } from '@tanstack/react-query';
import { CircleCheck, Eye, Send } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { approvalsQuery } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { Button } from '../../ui/button';
import { AskDialog } from '../approvals/ask-dialog';
import { PreviewButton } from '../preview/preview-button';
import { ChangeList } from './change-list';
import { PublishDialog } from './publish-dialog';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface NotLivePanelProps {
  site: string;
  /** The page that is looked at. */
  path: string;
  draft: { readonly etag: string } | undefined;
  diff: { readonly from: string; readonly changes: readonly Change[] } | undefined;
}

/** What is saved but not live, in words, and the button that makes it live. */
export function NotLivePanel({ site, path, draft, diff }: NotLivePanelProps) {
  const [isOpen, setOpen] = useState(false);
  const approvals = useInfiniteQuery(approvalsQuery(site)).data?.pages[0];
  const isNeeded = approvals?.rule.isNeeded === true;
  const current = isNeeded
    ? approvals.items.find(({ state, release }) => release === null && ['open', 'approved'].includes(state))
    : undefined;
  // Nobody has been asked yet about the draft as it is.
  const isHeld = isNeeded && current === undefined;
  if (!diff || !draft) return null;
  if (diff.changes.length === 0) {
    return (
      <section
        aria-label={STRIP.live}
        className="flex gap-2.5 rounded-xl border border-line bg-surface p-4 text-sm"
      >
        <CircleCheck className="size-5 shrink-0 text-good" aria-hidden />
        <p>{say(STRIP.visitorsGetWhat, { from: diff.from })}</p>
      </section>
    );
  }
  return (
    <section aria-label={STRIP.notLiveYet} className="rounded-xl border border-signal/40 bg-signal-soft p-4">
      <h2 className="text-signal">{STRIP.notLiveYet}</h2>
      <ChangeList changes={diff.changes} />
      {isNeeded && <ApprovalNote current={current} />}
      <div className="mt-3 flex flex-wrap gap-2">
        <PreviewButton site={site} path={path} className="flex-1" />
        {isHeld ? (
          <Button look="signal" needs="edit" className="flex-2" onClick={() => setOpen(true)}>
            <Eye className="size-4" aria-hidden /> {APPROVALS.ask}
          </Button>
        ) : (
          <Button
            look="signal"
            needs="publish"
            className="flex-2"
            disabled={current?.state === 'open'}
            onClick={() => setOpen(true)}
          >
            <Send className="size-4" aria-hidden /> {STRIP.publish}
          </Button>
        )}
      </div>
      {isHeld ? (
        <AskDialog site={site} etag={draft.etag} isOpen={isOpen} onOpenChange={setOpen} />
      ) : (
        <PublishDialog
          key={current?.id ?? 0}
          site={site}
          etag={draft.etag}
          changes={diff.changes}
          suggested={current?.message ?? ''}
          isOpen={isOpen}
          onOpenChange={setOpen}
        />
      )}
    </section>
  );
}

/** Where the approval stands that the site asks for. */
function ApprovalNote({ current }: { current: ApprovalResource | undefined }) {
  if (!current) return <p className="mt-2 text-sm">{APPROVALS.needed}</p>;
  const { id, state, requestedBy, decidedBy } = current;
  return (
    <p className="mt-2 text-sm">
      {state === 'open'
        ? say(APPROVALS.waiting, { by: requestedBy })
        : say(APPROVALS.approvedBy, { by: decidedBy ?? '' })}{' '}
      <Link to={`../approvals/${id}`} className="underline">
        {APPROVALS.lookAt}
      </Link>
    </p>
  );
}
