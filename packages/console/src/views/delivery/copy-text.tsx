import { Copy } from 'lucide-react';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { useCopy } from '../../ui/use-copy';

/** A text of several lines under its name, to copy. @param then - what is to be done with it */
export function CopyText({ name, text, then }: { name: string; text: string; then: string }) {
  const copy = useCopy();
  return (
    <div>
      <div className="flex items-center justify-between gap-2">
        <span className="font-medium">{name}</span>
        <Button size="small" aria-label={say(DELIVERY.copyNamed, { name })} onClick={() => copy(text, then)}>
          <Copy className="size-3.5" aria-hidden /> {DELIVERY.copy}
        </Button>
      </div>
      <pre className="mt-1 max-h-72 overflow-auto rounded-md border border-line bg-raised px-3 py-2 font-mono text-xs">
        {text}
      </pre>
    </div>
  );
}
