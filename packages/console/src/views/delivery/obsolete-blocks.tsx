import type { BlocksResource } from '@pragmatica/contract';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import type { Tick } from './block-card';

/** Boxes in which a block of ours still stands, and nothing goes any more. */
export function ObsoleteBlocks({ obsolete, tick }: { obsolete: BlocksResource['obsolete']; tick: Tick }) {
  if (obsolete.length === 0) return null;
  return (
    <div className="space-y-2">
      <h3>{DELIVERY.obsolete}</h3>
      {obsolete.map(({ kind, page, name }) => (
        <p key={`${kind} ${page ?? ''}`} className="flex flex-wrap items-center gap-2 text-sm">
          {say(DELIVERY.obsoleteText, { name, page: page ?? DELIVERY.allPages })}
          <Button
            className="print:hidden"
            size="small"
            isBusy={tick.isPending}
            onClick={() => tick.run({ kind, page, digest: null })}
          >
            {DELIVERY.isRemoved}
          </Button>
        </p>
      ))}
    </div>
  );
}
