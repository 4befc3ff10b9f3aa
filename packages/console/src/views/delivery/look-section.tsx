import { CircleCheck } from 'lucide-react';
import { useCheckBlocks } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Failure } from '../../ui/states';

/** What the boxes really hold, as the live pages show it. */
export function LookSection({ site }: { site: string }) {
  const check = useCheckBlocks(site);
  const pages = check.data?.pages ?? [];
  const wrong = pages.flatMap(({ page, problem, findings }) => [
    ...(problem === null ? [] : [{ page, message: problem }]),
    ...findings.filter(({ state }) => state !== 'right').map(({ message }) => ({ page, message })),
  ]);
  return (
    <div className="space-y-2 border-t border-line pt-3 text-sm">
      <div className="flex flex-wrap items-center gap-3">
        <Button isBusy={check.isPending} onClick={() => check.mutate()}>
          {DELIVERY.look}
        </Button>
        {check.isPending && <span className="text-muted">{DELIVERY.looking}</span>}
        {check.data && <span role="status">{say(DELIVERY.lookDone, check.data.counts)}</span>}
      </div>
      {check.isError && <Failure error={check.error} onRetry={() => check.mutate()} />}
      {check.data && wrong.length === 0 && (
        <p className="flex items-center gap-2 text-good">
          <CircleCheck className="size-4" aria-hidden /> {DELIVERY.lookRight}
        </p>
      )}
      {wrong.length > 0 && (
        <ul className="max-h-72 space-y-1 overflow-auto">
          {wrong.map(({ page, message }) => (
            <li key={`${page} ${message}`}>
              <code className="font-mono text-xs text-muted">{page}</code> {message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
