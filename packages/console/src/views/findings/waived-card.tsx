import type { WaivedFindingResource } from '@pragmatica/contract';
import { useRemoveWaiver } from '../../api/mutations';
import { Button } from '../../ui/button';
import { FINDINGS } from '../../texts/findings';
import { say } from '../../texts/say';

/** A finding that somebody has accepted, and why. */
export function WaivedCard({ site, finding }: { site: string; finding: WaivedFindingResource }) {
  const remove = useRemoveWaiver(site);
  const { author, until, reason } = finding.waiver;
  return (
    <li className="flex flex-wrap items-start gap-3 rounded-xl border border-line bg-surface p-4">
      <div className="min-w-52 flex-1 text-sm">
        <h3 className="font-medium">{finding.title}</h3>
        <p className="text-muted">{say(FINDINGS.acceptedAuthorUntil, { author, until, reason })}</p>
      </div>
      <Button size="small" needs="edit" isBusy={remove.isPending} onClick={() => remove.run(finding.id)}>
        {FINDINGS.noLongerAccept}
      </Button>
    </li>
  );
}
