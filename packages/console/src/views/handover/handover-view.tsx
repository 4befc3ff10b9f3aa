import { ApiError, type HandoverSheetResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck, Printer } from 'lucide-react';
import { useSyncExternalStore } from 'react';
import { hasFailed } from '../../api/failed';
import { handoverQuery, useTickHandover } from '../../api/handover';
import { DELIVERY } from '../../texts/delivery';
import { HANDOVER } from '../../texts/handover';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { BlockCard, type Tick } from '../delivery/block-card';
import { ObsoleteBlocks } from '../delivery/obsolete-blocks';

/** What somebody without an account is to paste, to copy, to tick off and to print. */
export function HandoverView() {
  const secret = useSyncExternalStore(onHashChange, () => window.location.hash.slice(1));
  const sheet = useQuery({ ...handoverQuery(secret), enabled: secret !== '' });
  const tick = useTickHandover(secret);
  const isOver = secret === '' || (sheet.error instanceof ApiError && sheet.error.status === 404);
  return (
    <main className="mx-auto w-full max-w-3xl space-y-4 px-4 py-6 print:max-w-none print:p-0">
      {isOver ? (
        <div className="rounded-xl border border-line bg-surface p-6 text-center">
          <h1>{HANDOVER.overTitle}</h1>
          <p className="mt-2 text-muted">{HANDOVER.overText}</p>
        </div>
      ) : sheet.data ? (
        <Sheet sheet={sheet.data} tick={tick} error={tick.error} />
      ) : hasFailed(sheet) ? (
        <Failure error={sheet.error} onRetry={() => void sheet.refetch()} />
      ) : (
        <Loading lines={4} label={HANDOVER.loading} />
      )}
    </main>
  );
}

function onHashChange(listener: () => void): () => void {
  window.addEventListener('hashchange', listener);
  return () => window.removeEventListener('hashchange', listener);
}

function Sheet({
  sheet: {
    site,
    until,
    blocks: { blocks, obsolete, release },
  },
  tick,
  error,
}: {
  sheet: HandoverSheetResource;
  tick: Tick;
  error: Error | null;
}) {
  const open = blocks.filter(({ state }) => state !== 'done').length;
  const isDone = open === 0 && obsolete.length === 0;
  return (
    <>
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-60 flex-1">
          <h1>{say(HANDOVER.title, { site })}</h1>
          <p className="mt-1 text-sm text-muted">{HANDOVER.how}</p>
        </div>
        <Button className="print:hidden" size="small" onClick={() => window.print()}>
          <Printer className="size-3.5" aria-hidden /> {HANDOVER.print}
        </Button>
      </header>
      {release === null ? (
        <p>{DELIVERY.nothingPublished}</p>
      ) : (
        <p role="status" className={isDone ? 'flex items-center gap-2 text-good' : ''}>
          {isDone && <CircleCheck className="size-5" aria-hidden />}
          {isDone ? HANDOVER.allDone : say(HANDOVER.someOpen, { open })}
        </p>
      )}
      <FormError error={error} />
      <ol className="space-y-3">
        {blocks.map((block) => (
          <BlockCard key={`${block.kind} ${block.page ?? ''}`} block={block} tick={tick} />
        ))}
      </ol>
      <ObsoleteBlocks obsolete={obsolete} tick={tick} />
      <footer className="text-[13px] text-muted">
        {HANDOVER.until} <Time at={until} />.
      </footer>
    </>
  );
}
