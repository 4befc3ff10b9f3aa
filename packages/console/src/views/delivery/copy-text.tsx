import { Copy } from 'lucide-react';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { useCopy } from '../../ui/use-copy';

interface CopyTextProps {
  readonly name: string;
  readonly text: string;
  /** What is to be done with it. */
  readonly then: string;
  /** It is one long line. */
  readonly isWrapped?: boolean;
}

/** A text under its name, to copy. */
export function CopyText({ name, text, then, isWrapped = false }: CopyTextProps) {
  const copy = useCopy();
  return (
    <div>
      <div className="flex items-center justify-between gap-2">
        <span className="font-medium">{name}</span>
        <Button size="small" aria-label={say(DELIVERY.copyNamed, { name })} onClick={() => copy(text, then)}>
          <Copy className="size-3.5" aria-hidden /> {DELIVERY.copy}
        </Button>
      </div>
      <pre
        className={cn(
          'mt-1 max-h-72 overflow-auto rounded-md border border-line bg-raised px-3 py-2 font-mono text-xs',
          isWrapped && '[overflow-wrap:anywhere] whitespace-pre-wrap',
        )}
      >
        {text}
      </pre>
    </div>
  );
}
