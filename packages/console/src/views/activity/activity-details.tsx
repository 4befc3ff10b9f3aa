import type { ActivityDetail } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { hasFailed } from '../../api/failed';
import { activityDetailQuery } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { Failure, Loading } from '../../ui/states';
import { CodeDifference } from '../findings/code-difference';

type Changed = ActivityDetail['changes'][number];

/** What one change did, before and after. */
export function ActivityDetails({ site, entry }: { site: string; entry: number }) {
  const detail = useQuery(activityDetailQuery(site, entry));
  if (detail.isPending) return <Loading lines={1} label={ACTIVITY.loadingDetails} />;
  if (hasFailed(detail)) return <Failure error={detail.error} onRetry={() => void detail.refetch()} />;
  const { changes, address } = detail.data;
  return (
    <div className="mt-2 space-y-3 border-t border-line pt-2 pb-1">
      {address !== null && <p className="text-[13px] text-muted">{say(ACTIVITY.from, { address })}</p>}
      {changes.length === 0 && <p className="text-muted">{ACTIVITY.noDetails}</p>}
      {changes.map((change) => (
        <ChangedThing key={`${change.kind} ${change.key}`} change={change} />
      ))}
    </div>
  );
}

function ChangedThing({ change }: { change: Changed }) {
  const { name, was, code } = change;
  const title = was === 'changed' ? name : say(ACTIVITY[was], { name });
  // What is new or gone is named; its code stands below.
  const rows = was === 'changed' ? change.rows.filter(({ what }) => !isOfCode(what, code)) : [];
  return (
    <section aria-label={title}>
      <h3 className="text-sm font-medium [overflow-wrap:anywhere]">{title}</h3>
      {was === 'changed' && rows.length === 0 && code.length === 0 && (
        <p className="text-muted">{ACTIVITY.onlyOrder}</p>
      )}
      {rows.length > 0 && (
        <dl className="mt-1 space-y-1.5">
          {rows.map(({ what, before, after }) => (
            <div key={what} className="grid gap-x-3 sm:grid-cols-[11rem_minmax(0,1fr)]">
              <dt className="text-muted">{what}</dt>
              <dd className="[overflow-wrap:anywhere]">
                <span className="text-muted">{ACTIVITY.before}:</span> {before || ACTIVITY.nothing}
                <br />
                <span className="text-muted">{ACTIVITY.after}:</span> {after || ACTIVITY.nothing}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {code.map(({ part, before, after }) => (
        <CodeDifference key={part} title={say(ACTIVITY.code, { part })} before={before} after={after} />
      ))}
    </section>
  );
}

/** Whether a row only says shortly what the code below it says whole. */
function isOfCode(what: string, code: Changed['code']): boolean {
  return code.length > 0 && what.startsWith('code');
}
