import type { BlocksResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck } from 'lucide-react';
import { useState } from 'react';
import { blocksQuery, useTickBlock } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Empty, Failure, Loading } from '../../ui/states';
import { BlockCard } from './block-card';
import { BoxesDialog } from './boxes-dialog';
import { HandoverSection } from './handover-section';
import { ObsoleteBlocks } from './obsolete-blocks';
import { LookSection } from './look-section';

/** Which text goes into which box, and whether it is there. */
export function PasteSection({ site }: { site: string }) {
  const blocks = useQuery(blocksQuery(site));
  const [isOpen, setOpen] = useState(false);
  const data = blocks.data;
  const describe = (
    <Button onClick={() => setOpen(true)} disabled={!data}>
      {data && data.boxes.length > 0 ? DELIVERY.change : DELIVERY.describe}
    </Button>
  );
  return (
    <section
      aria-label={DELIVERY.pasteTitle}
      className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5"
    >
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-60 flex-1">
          <h2>{DELIVERY.pasteTitle}</h2>
          <p className="text-sm text-muted">{DELIVERY.pasteText}</p>
        </div>
        {data && data.boxes.length > 0 && describe}
      </div>
      {blocks.isPending && <Loading lines={2} />}
      {blocks.isError && <Failure error={blocks.error} onRetry={() => void blocks.refetch()} />}
      {data?.boxes.length === 0 && (
        <Empty title={DELIVERY.noBoxes} action={describe}>
          {DELIVERY.noBoxesText}
        </Empty>
      )}
      {data && data.boxes.length > 0 && <Checklist site={site} data={data} />}
      {data && (
        <BoxesDialog
          key={String(isOpen)}
          site={site}
          boxes={data.boxes}
          isOpen={isOpen}
          onOpenChange={setOpen}
        />
      )}
    </section>
  );
}

function Checklist({ site, data }: { site: string; data: BlocksResource }) {
  const tick = useTickBlock(site);
  const { release, blocks, left, obsolete } = data;
  const open = blocks.filter(({ state }) => state !== 'done').length;
  const isDone = open === 0 && obsolete.length === 0;
  return (
    <>
      {release === null ? (
        <p className="text-sm text-muted">{DELIVERY.nothingPublished}</p>
      ) : (
        <p role="status" className={cn('flex items-center gap-2 text-sm', isDone && 'text-good')}>
          {isDone && <CircleCheck className="size-4" aria-hidden />}
          {say(DELIVERY.release, { release })}: {isDone ? DELIVERY.allDone : say(DELIVERY.someOpen, { open })}
        </p>
      )}
      <ul className="space-y-3">
        {blocks.map((block) => (
          <BlockCard key={`${block.kind} ${block.page ?? ''}`} block={block} tick={tick} />
        ))}
      </ul>
      <ObsoleteBlocks obsolete={obsolete} tick={tick} />
      {left.length > 0 && (
        <div className="rounded-lg border border-line bg-signal-soft p-3 text-sm">
          <p className="font-medium">{DELIVERY.left}</p>
          <ul className="mt-1 list-disc space-y-1 pl-5">
            {left.map(({ snippet, message }, index) => (
              <li key={`${snippet} ${index}`}>{message}</li>
            ))}
          </ul>
        </div>
      )}
      {blocks.length > 0 && <LookSection site={site} />}
      {blocks.length > 0 && <HandoverSection site={site} />}
    </>
  );
}
