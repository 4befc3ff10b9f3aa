import type { BackupList } from '@pragmatica/contract';
import { byteWords } from '@pragmatica/core';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useAskForBackup, useRemoveBackup } from '../../api/backups';
import { BACKUPS } from '../../texts/backups';
import { LOCALE, say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { Section } from '../../ui/section';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';

/** Whether there is a backup, how old it is, and one more at once. */
export function LastBackup({ list: { items, rule } }: { list: BackupList }) {
  const ask = useAskForBackup();
  const toast = useToast();
  const cancel = useRemoveBackup(() => toast({ tone: 'done', title: BACKUPS.notMade }));
  const last = items.find(({ state }) => state === 'done');
  const newest = items[0];
  const open = items.find(({ state }) => state === 'waiting' || state === 'running');
  return (
    <Section title={BACKUPS.lastTitle}>
      <div className="space-y-1.5" aria-live="polite">
        {last ? (
          <p className="flex items-start gap-2 font-medium">
            <CircleCheck className="mt-0.5 size-4 shrink-0 text-good" aria-hidden />
            <span>
              {BACKUPS.lastWas} <Time at={last.at} />
              {last.bytes !== null && `, ${byteWords(last.bytes, LOCALE)}`}
            </span>
          </p>
        ) : (
          <Warning>{rule.isOn ? BACKUPS.noneYet : BACKUPS.noneAndOff}</Warning>
        )}
        {newest?.state === 'failed' && (
          <Warning>{say(BACKUPS.lastFailed, { problem: newest.problem ?? '' })}</Warning>
        )}
        {last && !rule.isOn && <Warning>{BACKUPS.isOff}</Warning>}
        {rule.nextAt !== null && (
          <p className="text-muted">
            {BACKUPS.nextIs} <Time at={rule.nextAt} />.
          </p>
        )}
      </div>
      {open ? (
        <div className="flex flex-wrap items-center gap-3">
          <p role="status" className="flex-1">
            {open.allRows === null
              ? BACKUPS.startsSoon
              : say(BACKUPS.making, { done: open.doneRows, rows: open.allRows })}
          </p>
          <Button isBusy={cancel.isPending} onClick={() => cancel.mutate(open.id)}>
            {BACKUPS.cancel}
          </Button>
        </div>
      ) : (
        <Button look="primary" isBusy={ask.isPending} onClick={() => ask.mutate()}>
          {BACKUPS.makeNow}
        </Button>
      )}
      <FormError error={ask.error ?? cancel.error} />
      <p className="text-[13px] text-muted [overflow-wrap:anywhere]">
        {say(BACKUPS.sameDisk, { folder: rule.folder })}
      </p>
    </Section>
  );
}

function Warning({ children }: { children: string }) {
  return (
    <p className="flex items-start gap-2">
      <TriangleAlert className="mt-0.5 size-4 shrink-0 text-signal" aria-hidden />
      <span>{children}</span>
    </p>
  );
}
