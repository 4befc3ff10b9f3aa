import type { Change } from '@pragmatica/core';
import { CircleCheck, Send } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../../ui/button';
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
      <div className="mt-3 flex flex-wrap gap-2">
        <PreviewButton site={site} path={path} className="flex-1" />
        <Button look="signal" needs="publish" className="flex-2" onClick={() => setOpen(true)}>
          <Send className="size-4" aria-hidden /> {STRIP.publish}
        </Button>
      </div>
      <PublishDialog
        site={site}
        etag={draft.etag}
        changes={diff.changes}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </section>
  );
}
