import type { BackupList, KeptBackup } from '@pragmatica/contract';
import { byteWords } from '@pragmatica/core';
import { Archive, Lock } from 'lucide-react';
import { useState } from 'react';
import { downloadBackup, useRemoveBackup } from '../../api/backups';
import { BACKUPS } from '../../texts/backups';
import { LOCALE, say } from '../../texts/say';
import { Button } from '../../ui/button';
import { DangerDialog } from '../../ui/danger-dialog';
import { ItemRow } from '../../ui/item-row';
import { Section } from '../../ui/section';
import { Time, timeWords } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { BringDialog } from './bring-dialog';

/** Those that are there, the newest first. */
export function KeptBackups({ list: { items } }: { list: BackupList }) {
  const kept = items.filter(({ state }) => state === 'done' || state === 'failed');
  return (
    <Section title={BACKUPS.keptTitle}>
      {kept.length === 0 ? (
        <p className="text-muted">{BACKUPS.noKept}</p>
      ) : (
        <ul className="divide-y divide-line">
          {kept.map((backup) => (
            <Row key={backup.id} backup={backup} />
          ))}
        </ul>
      )}
    </Section>
  );
}

function Row({ backup }: { backup: KeptBackup }) {
  const { id, state, at, by, bytes, machine, isEncrypted, isHere, problem } = backup;
  const [asked, setAsked] = useState<'bring' | 'remove'>();
  const toast = useToast();
  const when = timeWords(at);
  const remove = useRemoveBackup(() => {
    setAsked(undefined);
    toast({ tone: 'done', title: BACKUPS.removed });
  });
  const facts = [
    by === null ? BACKUPS.bySchedule : say(BACKUPS.byMember, { by }),
    ...(bytes === null ? [] : [byteWords(bytes, LOCALE)]),
    ...(isEncrypted ? [BACKUPS.encrypted] : []),
    ...(machine === null || isHere ? [] : [say(BACKUPS.onMachine, { machine })]),
  ];
  const download = (): void => {
    downloadBackup(id).catch((error: unknown) =>
      toast({ tone: 'problem', title: BACKUPS.download, text: error instanceof Error ? error.message : '' }),
    );
  };
  return (
    <ItemRow
      icon={isEncrypted ? Lock : Archive}
      title={
        <>
          <Time at={at} className="font-medium" />
          {state === 'failed' && <span className="ml-1.5 text-danger">{BACKUPS.failedTag}</span>}
        </>
      }
      action={
        <div className="flex flex-wrap gap-1">
          {isHere && !isEncrypted && (
            <Button
              size="small"
              aria-label={say(BACKUPS.bringOf, { when })}
              onClick={() => setAsked('bring')}
            >
              {BACKUPS.bring}
            </Button>
          )}
          {isHere && (
            <Button size="small" aria-label={say(BACKUPS.downloadOf, { when })} onClick={download}>
              {BACKUPS.download}
            </Button>
          )}
          <Button
            size="small"
            look="quiet"
            aria-label={say(BACKUPS.removeOf, { when })}
            onClick={() => setAsked('remove')}
          >
            {BACKUPS.remove}
          </Button>
        </div>
      }
    >
      <p>{state === 'failed' ? problem : facts.join(' · ')}</p>
      {asked === 'bring' && <BringDialog backup={backup} onClose={() => setAsked(undefined)} />}
      <DangerDialog
        title={BACKUPS.removeTitle}
        description={BACKUPS.removeText}
        isOpen={asked === 'remove'}
        onOpenChange={(isOpen) => !isOpen && setAsked(undefined)}
        act={BACKUPS.remove}
        leave={BACKUPS.leave}
        isBusy={remove.isPending}
        error={remove.error}
        onAct={() => remove.mutate(id)}
      />
    </ItemRow>
  );
}
