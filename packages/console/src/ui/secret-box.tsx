import { Copy } from 'lucide-react';
import { COMMON } from '../texts/common';
import { Button } from './button';
import { useCopy } from './use-copy';

interface SecretBoxProps {
  readonly title?: string;
  readonly secret: string;
  /** What to do next, once it is copied. */
  readonly next: string;
  readonly note?: string;
}

/** What is shown once, to be copied. */
export function SecretBox({ title, secret, next, note }: SecretBoxProps) {
  const copy = useCopy();
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-primary-soft p-3 text-sm"
    >
      {title !== undefined && <p className="w-full font-medium">{title}</p>}
      <code className="min-w-0 flex-1 font-mono text-xs [overflow-wrap:anywhere]">{secret}</code>
      <Button size="small" look="primary" onClick={() => copy(secret, next)}>
        <Copy className="size-3.5" aria-hidden /> {COMMON.copy}
      </Button>
      {note !== undefined && <p className="w-full text-[13px] text-muted">{note}</p>}
    </div>
  );
}
