import { useQuery } from '@tanstack/react-query';
import { ListOrdered } from 'lucide-react';
import { useRightOrder, useUndoFix } from '../../api/mutations';
import { orderReportQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';
import { STRIP } from '../../texts/strip';

/** What is in the wrong order, and the fewest moves that put it right, as one action. */
export function OrderPanel({ site }: { site: string }) {
  const report = useQuery(orderReportQuery(site)).data;
  const right = useRightOrder(site);
  const undo = useUndoFix(site);
  const toast = useToast();
  if (!report || report.moves.length === 0) return null;
  return (
    <section aria-label={STRIP.order} className="rounded-xl border border-danger/40 bg-danger-soft p-4">
      <h2 className="text-danger">{STRIP.notRightOrder}</h2>
      <ul className="mt-1.5 list-disc space-y-1 pl-4 text-sm">
        {report.moves.map(({ part, sentence }) => (
          <li key={part}>{sentence}</li>
        ))}
      </ul>
      <Button
        className="mt-3 w-full"
        needs="edit"
        isBusy={right.isPending}
        onClick={() =>
          right.run(undefined, (before) =>
            toast({
              tone: 'done',
              title: STRIP.rightOrderDraft,
              text: STRIP.visitorsGetWhen,
              action: { label: STRIP.takeBack, run: () => undo.run(before) },
            }),
          )
        }
      >
        <ListOrdered className="size-4" aria-hidden /> {STRIP.putRightOrder}
      </Button>
    </section>
  );
}
