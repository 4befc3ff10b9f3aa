import type { ActivityEntry } from '@pragmatica/contract';
import { ChevronDown, Undo2 } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Time } from '../../ui/time';
import { ActivityDetails } from './activity-details';
import { UndoDialog } from './undo-dialog';

/** Who did what, and when. */
export function EntryLine({ entry, children }: { entry: ActivityEntry; children?: ReactNode }) {
  return (
    <>
      <Time at={entry.at} className="w-40 shrink-0 text-muted" />
      <span className="w-24 shrink-0 font-medium [overflow-wrap:anywhere]">{entry.by}</span>
      <span className="min-w-52 flex-1 [overflow-wrap:anywhere]">
        {children}
        {entry.message}
        {entry.token !== null && (
          <span className="text-muted"> {say(ACTIVITY.withToken, { token: entry.token })}</span>
        )}
      </span>
    </>
  );
}

/** An entry of a site’s activity, with what it changed, and the way back. */
export function ActivityRow({ site, entry }: { site: string; entry: ActivityEntry }) {
  const [isOpen, setOpen] = useState(false);
  const [isUndoing, setUndoing] = useState(false);
  const { message } = entry;
  return (
    <Collapsible.Root open={isOpen} onOpenChange={setOpen}>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-0.5">
        <EntryLine entry={entry} />
        <span className="flex min-w-38 shrink-0 justify-end gap-1 max-sm:w-full">
          {entry.canUndo && (
            <Button
              look="quiet"
              size="small"
              needs="edit"
              aria-label={say(ACTIVITY.undoOf, { message })}
              onClick={() => setUndoing(true)}
            >
              <Undo2 className="size-3.5" aria-hidden /> {ACTIVITY.undo}
            </Button>
          )}
          <Collapsible.Trigger asChild>
            <Button
              look="quiet"
              size="small"
              aria-label={say(isOpen ? ACTIVITY.hideOf : ACTIVITY.detailsOf, { message })}
            >
              {isOpen ? ACTIVITY.hide : ACTIVITY.details}
              <ChevronDown className={isOpen ? 'size-3.5 rotate-180' : 'size-3.5'} aria-hidden />
            </Button>
          </Collapsible.Trigger>
        </span>
      </div>
      <Collapsible.Content>
        <ActivityDetails site={site} entry={entry.id} />
      </Collapsible.Content>
      {isUndoing && <UndoDialog site={site} entry={entry} onClose={() => setUndoing(false)} />}
    </Collapsible.Root>
  );
}
