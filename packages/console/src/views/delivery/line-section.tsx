import { useQuery } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { lineQuery } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Failure, Loading } from '../../ui/states';
import { useCopy } from '../../ui/use-copy';

const FORMS = [
  ['order', DELIVERY.lineOrder, DELIVERY.lineOrderHint],
  ['async', DELIVERY.lineAsync, DELIVERY.lineAsyncHint],
] as const;

/** The line in both its forms, to copy. */
export function LineSection({ site }: { site: string }) {
  const line = useQuery(lineQuery(site));
  const copy = useCopy();
  return (
    <section
      aria-label={DELIVERY.lineTitle}
      className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5"
    >
      <div>
        <h2>{DELIVERY.lineTitle}</h2>
        <p className="text-sm text-muted">{DELIVERY.lineText}</p>
      </div>
      {line.isPending && <Loading lines={2} />}
      {line.isError && <Failure error={line.error} onRetry={() => void line.refetch()} />}
      {line.data && (
        <ul className="space-y-3">
          {FORMS.map(([form, name, hint]) => (
            <li key={form}>
              <p className="text-sm">
                <span className="font-medium">{name}</span> <span className="text-muted">{hint}</span>
              </p>
              <div className="mt-1 flex items-center gap-2">
                <code className="min-w-0 flex-1 rounded-md border border-line bg-raised px-3 py-2 font-mono text-xs [overflow-wrap:anywhere]">
                  {line.data[form]}
                </code>
                <Button
                  size="small"
                  aria-label={say(DELIVERY.copyNamed, { name })}
                  onClick={() => copy(line.data[form], DELIVERY.lineCopiedText)}
                >
                  <Copy className="size-3.5" aria-hidden /> {DELIVERY.copy}
                </Button>
              </div>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
