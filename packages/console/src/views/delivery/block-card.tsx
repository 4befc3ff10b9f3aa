import type { BlocksResource } from '@pragmatica/contract';
import { Check, Copy } from 'lucide-react';
import type { Ticked } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Time } from '../../ui/time';
import { useCopy } from '../../ui/use-copy';

type Block = BlocksResource['blocks'][number];

const CODE =
  'mt-1 overflow-auto rounded-md border border-line bg-surface px-3 py-2 font-mono text-xs whitespace-pre-wrap [overflow-wrap:anywhere]';

/** Says that something is pasted. */
export interface Tick {
  readonly run: (ticked: Ticked) => void;
  readonly isPending: boolean;
}

/** One box: what goes in, to copy, and whether it is there. */
export function BlockCard({ block, tick }: { block: Block; tick: Tick }) {
  const copy = useCopy();
  const { kind, page, name, text, digest, parts, state, pasted, tooLongBy, hoursUntil } = block;
  const snippets = [...new Set(parts.map((part) => part.name))].join(', ');
  return (
    <li className="rounded-lg border border-line bg-raised p-3 text-sm">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <div className="min-w-52 flex-1">
          <p>
            <span className="font-medium">{name}</span>{' '}
            <span className="text-muted">
              {DELIVERY.kinds[kind]}
              {page !== null && <code className="ml-1 font-mono text-xs">{page}</code>}
            </span>
          </p>
          <p className="text-[13px] text-muted">
            {say(DELIVERY.holds, { parts: snippets })} · {say(DELIVERY.characters, { count: text.length })}
          </p>
        </div>
        <State block={block} />
        <Button
          className="print:hidden"
          size="small"
          look={state === 'done' || tooLongBy !== null ? 'quiet' : 'primary'}
          aria-label={say(DELIVERY.copyNamed, { name })}
          onClick={() => copy(text, say(DELIVERY.copiedText, { name }))}
        >
          <Copy className="size-3.5" aria-hidden /> {DELIVERY.copy}
        </Button>
        {state !== 'done' && (
          <Button
            className="print:hidden"
            size="small"
            isBusy={tick.isPending}
            onClick={() => tick.run({ kind, page, digest })}
          >
            <Check className="size-3.5" aria-hidden /> {DELIVERY.isPasted}
          </Button>
        )}
      </div>
      {tooLongBy !== null && <p className="mt-2 text-danger">{say(DELIVERY.tooLong, { over: tooLongBy })}</p>}
      {state === 'done' && pasted && (
        <p className="mt-1 text-[13px] text-muted">
          {say(DELIVERY.pastedBy, { release: pasted.release, by: pasted.by })}, <Time at={pasted.at} />
        </p>
      )}
      {hoursUntil !== null && (
        <p className="mt-1 text-[13px] text-muted">
          {DELIVERY.hoursUntil} <Time at={hoursUntil} />.
        </p>
      )}
      <details className="mt-2 print:hidden">
        <summary className="cursor-pointer text-[13px] text-primary">{DELIVERY.showText}</summary>
        <pre className={cn(CODE, 'max-h-56')}>{text}</pre>
      </details>
      {/* On paper nothing can be opened. */}
      <pre className={cn(CODE, 'hidden print:block')}>{text}</pre>
    </li>
  );
}

function State({ block: { state, pasted } }: { block: Block }) {
  const words =
    state === 'done'
      ? DELIVERY.stateDone
      : state === 'open'
        ? DELIVERY.stateOpen
        : say(DELIVERY.stateOutdated, { release: pasted?.release ?? 0 });
  return (
    <span
      className={cn(
        'rounded-full px-2 py-0.5 text-xs font-medium',
        state === 'done' ? 'bg-primary-soft text-good' : 'bg-signal-soft text-signal',
      )}
    >
      {words}
    </span>
  );
}
