import { Copy } from 'lucide-react';
import { ACCOUNT } from '../../texts/account';
import { COMMON } from '../../texts/common';
import { Button } from '../../ui/button';
import { useCopy } from '../../ui/use-copy';

/** Recovery codes, shown once. */
export function RecoveryCodes({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  const copy = useCopy();
  return (
    <div role="status" className="space-y-2 rounded-lg border border-line bg-primary-soft p-3">
      <p className="font-medium">{ACCOUNT.codesTitle}</p>
      <p className="text-[13px]">{ACCOUNT.codesText}</p>
      <ul className="grid gap-x-6 gap-y-1 font-mono text-[13px] sm:grid-cols-2">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button size="small" look="primary" onClick={() => copy(codes.join('\n'), ACCOUNT.codesCopied)}>
          <Copy className="size-3.5" aria-hidden /> {COMMON.copy}
        </Button>
        <Button size="small" onClick={onDone}>
          {ACCOUNT.codesKept}
        </Button>
      </div>
    </div>
  );
}
